package main

import (
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// contractFile is a contract that was read from a file; nil when it could not be.
type contractFile struct {
	name     string
	text     []byte
	contract *contract.Contract
	found    problem.List
}

// contractSuffix ends the names of the files that a folder's contracts are in.
const contractSuffix = ".json"

// readContracts reads files of contracts, and all of a folder's. Uses are tied to the contracts
// among them, or beside them in their folders.
func readContracts(names []string, tokens *token.Set) ([]*contractFile, error) {
	files, err := contractFiles(names)
	if err != nil {
		return nil, err
	}
	var out []*contractFile
	beside := map[string]bool{}
	for _, name := range files {
		text, err := os.ReadFile(name)
		if err != nil {
			return nil, err
		}
		f := &contractFile{name: name, text: text}
		if f.contract, f.found = contract.Read(name, text, tokens); f.contract != nil && tokens != nil {
			f.contract.Timed(tokens)
		}
		out = append(out, f)
		beside[filepath.Dir(name)] = true
	}
	known := map[string]*contract.Contract{}
	for _, f := range out {
		if f.contract != nil {
			if known[f.contract.Name] != nil {
				return nil, fmt.Errorf("%s holds another contract named %s", f.name, f.contract.Name)
			}
			known[f.contract.Name] = f.contract
		}
	}
	find := func(name string) *contract.Contract {
		if known[name] == nil {
			known[name] = contractBeside(name, beside)
		}
		return known[name]
	}
	for _, f := range out {
		if f.contract == nil || len(f.contract.UsedParts()) == 0 {
			continue
		}
		if _, cycle := contract.NewLinker(find).Link(f.contract); cycle != nil {
			return nil, fmt.Errorf("%s: %s would be made of itself: %s", f.name, cycle[0], strings.Join(cycle, " → "))
		}
		if f.found = f.contract.Check(tokens).Locate(f.name, f.text); f.found.Failed() {
			f.contract = nil
		}
	}
	return out, nil
}

// contractFiles puts the contracts of folders in their place; those of one are in the order of
// their names.
func contractFiles(names []string) (out []string, err error) {
	for _, name := range names {
		info, err := os.Stat(name)
		if err != nil {
			return nil, err
		}
		if !info.IsDir() {
			out = append(out, name)
			continue
		}
		entries, err := os.ReadDir(name)
		if err != nil {
			return nil, err
		}
		before := len(out)
		for _, e := range entries {
			if file := filepath.Join(name, e.Name()); !e.IsDir() && isContract(file) {
				out = append(out, file)
			}
		}
		if len(out) == before {
			return nil, fmt.Errorf("%s holds no contracts", name)
		}
	}
	return out, nil
}

// isContract tells whether a file says that it is one.
func isContract(file string) bool {
	if !strings.HasSuffix(file, contractSuffix) {
		return false
	}
	text, err := os.ReadFile(file)
	return err == nil && bytes.Contains(text[:min(len(text), 4096)], []byte(contract.Format))
}

// contractBeside finds the contract of a name in folders; nil for none.
func contractBeside(name string, folders map[string]bool) *contract.Contract {
	sorted := make([]string, 0, len(folders))
	for f := range folders {
		sorted = append(sorted, f)
	}
	slices.Sort(sorted)
	for _, folder := range sorted {
		files, err := contractFiles([]string{folder})
		if err != nil {
			continue
		}
		for _, file := range files {
			text, err := os.ReadFile(file)
			if err != nil || !bytes.Contains(text, []byte(name)) {
				continue
			}
			if c, _ := contract.Read(file, text, nil); c != nil && c.Name == name {
				return c
			}
		}
	}
	return nil
}
