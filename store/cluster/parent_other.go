//go:build !linux

package cluster

import "syscall"

// endWithParent: this system has no such thing; the next start finds the server that was left, and uses it.
func endWithParent(*syscall.SysProcAttr) {}
