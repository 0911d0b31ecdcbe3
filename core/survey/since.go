package survey

import "slices"

// Since says what is not as it was in an earlier reading.
type Since struct {
	NewFinds     []string `json:"newFinds"`     // ids
	ChangedFinds []string `json:"changedFinds"` // ids: other copies, or other props
	GoneFinds    []string `json:"goneFinds"`    // names they had
	NewDoubts    []string `json:"newDoubts"`    // ids
	GoneDoubts   []string `json:"goneDoubts"`   // what they said
}

// Compare holds a reading against an earlier one. A find is the one of before that it has most copies in common with.
func Compare(before, after Reading) Since {
	out := Since{NewFinds: []string{}, ChangedFinds: []string{}, GoneFinds: []string{}, NewDoubts: []string{}, GoneDoubts: []string{}}
	of := map[string][]int{} // finds of before, by their copies
	for i, f := range before.Finds {
		for _, m := range f.Members {
			of[m.ID] = append(of[m.ID], i)
		}
	}
	kept := map[int]bool{}
	for _, f := range after.Finds {
		common := map[int]int{}
		best := -1
		for _, m := range f.Members {
			for _, i := range of[m.ID] {
				if common[i]++; !kept[i] && (best < 0 || common[i] > common[best]) {
					best = i
				}
			}
		}
		if best < 0 {
			out.NewFinds = append(out.NewFinds, f.ID)
			continue
		}
		kept[best] = true
		was := before.Finds[best]
		if common[best] != len(f.Members) || len(was.Members) != len(f.Members) || !slices.EqualFunc(was.Props, f.Props, func(a, b Prop) bool { return a.Name == b.Name && a.Kind == b.Kind }) {
			out.ChangedFinds = append(out.ChangedFinds, f.ID)
		}
	}
	for i, f := range before.Finds {
		if !kept[i] {
			out.GoneFinds = append(out.GoneFinds, f.Name)
		}
	}
	doubts := map[string]bool{}
	for _, d := range before.Doubts {
		doubts[d.ID] = true
	}
	now := map[string]bool{}
	for _, d := range after.Doubts {
		if now[d.ID] = true; !doubts[d.ID] {
			out.NewDoubts = append(out.NewDoubts, d.ID)
		}
	}
	for _, d := range before.Doubts {
		if !now[d.ID] {
			out.GoneDoubts = append(out.GoneDoubts, d.Message)
		}
	}
	return out
}
