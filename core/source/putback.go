package source

import (
	"slices"

	"cobrik/core/source/merge"
)

// mostEdits bounds how many pieces of code are looked at one by one to take something back.
const mostEdits = 400

// PutBack gives files in which some moves of the code, by their keys, are taken back: of the pieces that are otherwise than they were last written
// the fewest that take back what was chosen. Moves that go with them, as what is said while a prop is set goes with the prop, and those that cannot be taken
// back, for which nothing is done, are listed. Base are the files as they were last written; read reads the component of files.
func PutBack(files, base []File, v Versions, keys []string, read func(files []File) *Reading) (out []File, also, left []string) {
	p := putting{files: files, v: v, read: read, before: map[string]string{}, base: map[string]string{}}
	for _, m := range v.Moves() {
		p.before[m.Key], p.base[m.Key] = m.Code, m.Base
	}
	for i, f := range files {
		at := slices.IndexFunc(base, func(b File) bool { return b.Name == f.Name })
		if at < 0 {
			continue
		}
		for _, e := range merge.Edits(f.Name, f.Text, base[at].Text) {
			p.pieces = append(p.pieces, piecePutBack{i, e})
		}
	}
	if len(p.pieces) > mostEdits {
		return files, nil, keys
	}
	var chosen []piecePutBack
	for _, key := range keys {
		set, ok := p.fewest(key)
		if !ok {
			left = append(left, key)
			continue
		}
		for _, one := range set {
			if !slices.Contains(chosen, one) {
				chosen = append(chosen, one)
			}
		}
	}
	now, ok := p.after(chosen)
	if !ok {
		return files, nil, keys
	}
	for _, m := range v.Moves() {
		if is, there := now[m.Key]; m.Side != ContractSide && (!there || is.Code != m.Code) && !slices.Contains(keys, m.Key) {
			also = append(also, m.Key)
		}
	}
	return p.without(chosen), also, left
}

// piecePutBack is a change of one file.
type piecePutBack struct {
	file int
	edit merge.Edit
}

type putting struct {
	files  []File
	v      Versions
	read   func(files []File) *Reading
	pieces []piecePutBack
	before map[string]string // what the code says of each move
	base   map[string]string // what it said when it was last written
}

// without gives the files with pieces put back.
func (p putting) without(pieces []piecePutBack) []File {
	out := slices.Clone(p.files)
	for i := range out {
		var edits []merge.Edit
		for _, one := range pieces {
			if one.file == i {
				edits = append(edits, one.edit)
			}
		}
		if edits != nil {
			out[i].Text = merge.Apply(out[i].Text, edits)
		}
	}
	return out
}

// after gives the moves once pieces are put back; false where it is not read any more.
func (p putting) after(pieces []piecePutBack) (map[string]Move, bool) {
	r := p.read(p.without(pieces))
	if r == nil {
		return nil, false
	}
	now := map[string]Move{}
	for _, m := range (Versions{p.v.Base, p.v.Contract, r}).Moves() {
		now[m.Key] = m
	}
	return now, true
}

// fewest finds pieces that take a move back, none of which can be left alone: from all of them, those are left out one by one without which it is taken back
// all the same. False where it cannot be, or something else would be otherwise then.
func (p putting) fewest(key string) ([]piecePutBack, bool) {
	gone := func(pieces []piecePutBack) bool {
		now, ok := p.after(pieces)
		if is, there := now[key]; !ok || there && is.Code != p.base[key] { // the contract may say otherwise still
			return false
		}
		for other, is := range now {
			if _, there := p.before[other]; !there && is.Side != ContractSide { // half of something is left
				return false
			}
		}
		return true
	}
	set := slices.Clone(p.pieces)
	if !gone(set) {
		return nil, false
	}
	for size := len(set) / 2; size >= 1; size /= 2 {
		for from := 0; from < len(set); {
			rest := slices.Concat(set[:from], set[min(from+size, len(set)):])
			if gone(rest) {
				set = rest
			} else {
				from += size
			}
		}
	}
	return set, true
}
