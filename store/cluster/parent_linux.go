package cluster

import "syscall"

// endWithParent has a process shut down in the fast way when the program ends, even when that is killed (prctl(2),
// PR_SET_PDEATHSIG).
func endWithParent(attr *syscall.SysProcAttr) { attr.Pdeathsig = syscall.SIGINT }
