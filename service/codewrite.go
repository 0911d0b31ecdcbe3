package service

import (
	"context"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"
	"time"

	"cobrik/core/source"
	"cobrik/core/source/merge"
	"cobrik/gitrepo"
	"cobrik/store"
)

// WritePlan is what a branch would hold.
type WritePlan struct {
	Hash       string           `json:"hash" doc:"The commit that it is made of; writing carries it"`
	Branch     string           `json:"branch" doc:"A name that is free"`
	Components []WriteComponent `json:"components"`
	Blocked    string           `json:"blocked" doc:"Why it cannot be written, in a sentence; empty for nothing"`
}

// WriteComponent is one commit.
type WriteComponent struct {
	Slug      string         `json:"slug"`
	Name      string         `json:"name"`
	Message   string         `json:"message"`
	Files     []WriteFile    `json:"files"`
	Conflicts []FileConflict `json:"conflicts" doc:"What both sides changed, not the same way"`
	Left      []string       `json:"left" doc:"Moves that could not be put back, in sentences"`
	Also      []string       `json:"also" doc:"Moves that go with what is put back, in sentences"`
}

// WriteFile is a file that a commit changes.
type WriteFile struct {
	Name    string `json:"name"`
	Added   int    `json:"added" doc:"Lines"`
	Removed int    `json:"removed" doc:"Lines"`
	text    []byte
}

// FileConflict is a place in a file that both changed.
type FileConflict struct {
	merge.Conflict
	File string `json:"file"`
}

// WriteRequest asks for a branch.
type WriteRequest struct {
	Hash       string                `json:"hash" doc:"The commit that was read"`
	Branch     string                `json:"branch" maxLength:"200"`
	Components []string              `json:"components,omitempty" doc:"Slugs; all that there is to write when there are none"`
	Choose     map[string]merge.Side `json:"choose,omitempty" doc:"Of conflicts, by file and key: ours, theirs, or marked"`
	Forward    bool                  `json:"forward,omitempty" doc:"The target's own branch is to follow, where it can"`
}

// Written is what came of it.
type Written struct {
	Branch  string `json:"branch"`
	Hash    string `json:"hash"`
	Commits int    `json:"commits"`
	Forward bool   `json:"forward" doc:"The target's own branch follows"`
}

// PlanWrite works out what a branch would hold.
func (s *Service) PlanWrite(ctx context.Context, r WriteRequest) (WritePlan, error) {
	plan, _, err := s.planWrite(ctx, r)
	return plan, err
}

func (s *Service) planWrite(ctx context.Context, r WriteRequest) (WritePlan, *codeSide, error) {
	out := WritePlan{Components: []WriteComponent{}}
	side, ok, err := s.codeNow(ctx)
	if err != nil {
		return out, nil, err
	}
	if !ok {
		return out, nil, invalid(nil, "No code was read yet. Say in Sources where it is.")
	}
	if r.Hash != "" && r.Hash != side.hash {
		return out, nil, &Failure{Kind: Conflict, Message: fmt.Sprintf("The code moved to commit %.7s since you read %.7s. Read it again.", side.hash, r.Hash)}
	}
	out.Hash = side.hash
	branches, err := side.repo.Branches()
	if err != nil {
		return out, nil, err
	}
	out.Branch = freeBranch(branches, time.Now())
	decided, err := s.store.CodeDecisions(ctx)
	if err != nil {
		return out, nil, err
	}
	if len(r.Components) == 0 {
		tokens, err := s.tokensToWrite(ctx, side)
		if err != nil {
			return out, nil, err
		}
		if tokens != nil {
			out.Components = append(out.Components, *tokens)
		}
	}
	for _, c := range side.all {
		if len(r.Components) > 0 && !slices.Contains(r.Components, c.row.Slug) {
			continue
		}
		one := side.writing(c, decided, r.Choose)
		if one == nil {
			continue
		}
		out.Components = append(out.Components, *one)
	}
	shared, err := s.shared(side, out.Components, r.Choose)
	if err != nil {
		return out, nil, err
	}
	if shared != nil {
		out.Components = append(out.Components, *shared)
	}
	open := 0
	for _, c := range out.Components {
		for _, k := range c.Conflicts {
			if r.Choose[k.File+" "+k.Key] == "" {
				open++
			}
		}
	}
	switch {
	case len(out.Components) == 0:
		out.Blocked = "There is nothing to write: the code says what the contracts say, or waits to be decided."
	case open > 0:
		out.Blocked = fmt.Sprintf("%s to be chosen: both sides changed the same thing.", several(open, "place waits", "places wait"))
	}
	return out, side, nil
}

func several(n int, one, more string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, more)
}

func freeBranch(branches []string, now time.Time) string {
	name := "cobrik/" + now.UTC().Format("2006-01-02")
	for n := 2; slices.Contains(branches, name); n++ {
		name = fmt.Sprintf("cobrik/%s-%d", now.UTC().Format("2006-01-02"), n)
	}
	return name
}

// writing works out the commit of one component; nil where there is nothing to write.
func (side *codeSide) writing(c *codeComponent, decided []store.CodeDecision, choose map[string]merge.Side) *WriteComponent {
	name := c.contract.Name
	out := &WriteComponent{Slug: c.row.Slug, Name: name, Files: []WriteFile{}, Conflicts: []FileConflict{}, Left: []string{}, Also: []string{}}
	if !c.there {
		for _, f := range side.written {
			if strings.HasPrefix(f.Path, name+"/") {
				out.add(side, f.Path, nil, []byte(f.Content))
			}
		}
		out.Message = name + ": the component is written\n\nIt had no code yet.\n"
		return out
	}
	var back []string
	var lines []string
	sentences := map[string]string{}
	fromContract := false
	for _, m := range c.moves {
		sentences[m.Key] = m.Said()
		d := decisionOf(c, m, decided)
		switch {
		case m.Side == source.ContractSide:
			fromContract = true
			lines = append(lines, "- "+m.Told())
		case d != nil && d.Outcome == "back":
			back = append(back, m.Key)
			fromContract = fromContract || m.Side == source.SeveralSides
			lines = append(lines, "- "+m.Told())
		}
	}
	if !fromContract && back == nil {
		return nil
	}
	theirs := slices.Clone(side.files)
	if back != nil {
		read := func(files []source.File) *source.Reading {
			r := source.Open(files).Read(c.file, name, side.options)
			if r != nil {
				r.Align(c.contract)
				c.quiet(r)
			}
			return r
		}
		var also, left []string
		theirs, also, left = source.PutBack(theirs, side.inPlace(c), c.versions, back, read)
		for _, key := range also {
			out.Also = append(out.Also, sentences[key])
		}
		for _, key := range left {
			out.Left = append(out.Left, sentences[key])
		}
	}
	folder := path.Dir(c.file)
	base := side.inPlace(c)
	for _, f := range side.written {
		rest, own := strings.CutPrefix(f.Path, name+"/")
		if !own {
			continue
		}
		at := path.Join(folder, rest)
		was, there := fileIn(side.files, at)
		now, _ := fileIn(theirs, at)
		before, _ := fileIn(base, at)
		switch {
		case !there && !slices.Contains(sourceEndings, path.Ext(at)): // words and types beside the code are not read back
			continue
		case !there && before != nil:
			continue // they took it out
		case !fromContract:
			out.add(side, at, was, now)
			continue
		}
		out.add(side, at, was, out.merged(side, at, before, []byte(f.Content), now, choose))
	}
	if len(out.Files) == 0 && len(out.Conflicts) == 0 && len(out.Left) == 0 {
		return nil
	}
	out.Message = fmt.Sprintf("%s: %s in step with the contract\n\n%s\n", name, several(len(lines), "fact", "facts"), strings.Join(lines, "\n"))
	return out
}

// inPlace gives the base files under the names that the code has them by.
func (side *codeSide) inPlace(c *codeComponent) []source.File {
	if c.known && c.base.Hash != "" {
		return c.files
	}
	folder := path.Dir(c.file)
	out := slices.Clone(c.files)
	for i, f := range out {
		if rest, own := strings.CutPrefix(f.Name, c.contract.Name+"/"); own {
			out[i].Name = path.Join(folder, rest)
		}
	}
	return out
}

func fileIn(files []source.File, name string) ([]byte, bool) {
	for _, f := range files {
		if f.Name == name {
			return f.Text, true
		}
	}
	return nil, false
}

// merged puts what would be written of a file and what people made of it together, and notes where both changed the same thing.
func (c *WriteComponent) merged(side *codeSide, name string, base, ours, theirs []byte, choose map[string]merge.Side) []byte {
	full := path.Join(side.target.Folder, name)
	picked := map[string]merge.Side{}
	for key, picks := range choose {
		if k, is := strings.CutPrefix(key, full+" "); is {
			picked[k] = picks
		}
	}
	m := merge.Merge(name, base, ours, theirs, picked)
	for _, k := range m.Conflicts {
		c.Conflicts = append(c.Conflicts, FileConflict{k, full})
	}
	return []byte(m.Text)
}

// add notes what becomes of a file; nothing where it stays.
func (c *WriteComponent) add(side *codeSide, name string, was, now []byte) {
	c.addAt(path.Join(side.target.Folder, name), was, now)
}

// addAt adds a file by its name from the repository's root.
func (c *WriteComponent) addAt(name string, was, now []byte) {
	if was == nil && now != nil || string(was) != string(now) { // a file may be there, and empty
		added, removed := lineChanges(string(was), string(now))
		c.Files = append(c.Files, WriteFile{name, added, removed, now})
	}
}

// lineChanges counts the lines that came and went.
func lineChanges(was, now string) (added, removed int) {
	count := map[string]int{}
	if was != "" {
		for _, line := range strings.Split(was, "\n") {
			count[line]--
		}
	}
	if now != "" {
		for _, line := range strings.Split(now, "\n") {
			count[line]++
		}
	}
	for _, n := range count {
		if n > 0 {
			added += n
		} else {
			removed -= n
		}
	}
	return added, removed
}

// sharedTitle is the first line of the commits that write what components share.
const sharedTitle = "Icons, pictures and tokens that components share"

// shared works out what components share and is not there, or not as it is written: icons, pictures, tokens. What people changed since it was
// written is merged.
func (s *Service) shared(side *codeSide, list []WriteComponent, choose map[string]merge.Side) (*WriteComponent, error) {
	out := &WriteComponent{Name: "What components share", Files: []WriteFile{}, Conflicts: []FileConflict{}, Left: []string{}, Also: []string{}}
	for _, f := range side.written {
		was, there := fileIn(side.files, f.Path)
		switch {
		case strings.HasPrefix(f.Path, "icons/"), strings.HasPrefix(f.Path, "pictures/"), f.Path == "tokens.css":
		case !strings.Contains(f.Path, "/") && !there && slices.Contains(sourceEndings, path.Ext(f.Path)) && !strings.HasSuffix(f.Path, ".d.ts"):
		default:
			continue
		}
		if !there && len(list) == 0 { // it comes with the first component
			continue
		}
		if !there || string(was) == f.Content {
			out.add(side, f.Path, was, []byte(f.Content))
			continue
		}
		base, err := s.sharedBase(side, path.Join(side.target.Folder, f.Path))
		if err != nil {
			return nil, err
		}
		out.add(side, f.Path, was, out.merged(side, f.Path, base, []byte(f.Content), was, choose))
	}
	if len(out.Files) == 0 && len(out.Conflicts) == 0 {
		return nil, nil
	}
	out.Message = sharedTitle + "\n"
	return out, nil
}

// sharedBase gives a file as it was last written before anybody else changed it; nil where it was not.
func (s *Service) sharedBase(side *codeSide, name string) ([]byte, error) {
	return recalled(&s.memo, "shared base "+side.target.Path+" "+side.hash+" "+name, func() ([]byte, error) { return side.sharedBase(name) })
}

func (side *codeSide) sharedBase(name string) ([]byte, error) {
	list, err := side.repo.History(side.hash, name)
	if err != nil {
		return nil, err
	}
	hash := ""
	for _, c := range slices.Backward(list) {
		if c.Message != sharedTitle {
			break
		}
		hash = c.Hash
	}
	if hash == "" {
		return nil, nil
	}
	files, err := side.repo.Files(hash, func(file string) bool { return file == name })
	return files[name], err
}

// Write makes a branch of commits, one a component, on top of the commit that was read. What it is about to do is kept first, so that
// whoever comes after a crash ends it.
func (s *Service) Write(ctx context.Context, r WriteRequest) (Written, error) {
	plan, side, err := s.planWrite(ctx, r)
	if err != nil {
		return Written{}, err
	}
	if plan.Blocked != "" {
		return Written{}, invalid(nil, "%s", plan.Blocked)
	}
	head, err := side.repo.Head(side.target.Branch)
	if err != nil {
		return Written{}, &Failure{Kind: Unavailable, Message: inSentence(err)}
	}
	if head.Hash != side.hash {
		return Written{}, &Failure{Kind: Conflict, Message: fmt.Sprintf("The branch %s moved to %.7s since it was read. Read it again; nothing was written.", side.target.Branch, head.Hash)}
	}
	var changes []gitrepo.Change
	var slugs []string
	for _, c := range plan.Components {
		files := map[string][]byte{}
		for _, f := range c.Files {
			files[f.Name] = f.text
		}
		if len(files) == 0 {
			continue
		}
		changes = append(changes, gitrepo.Change{Files: files, Message: c.Message})
		if c.Slug != "" {
			slugs = append(slugs, c.Slug)
		}
	}
	if len(changes) == 0 {
		return Written{}, invalid(nil, "There is nothing to write: what was to be put back could not be.")
	}
	hash, err := side.repo.Build(side.hash, changes, gitrepo.Author{Name: side.target.Author, Email: side.target.Email}, time.Now())
	if err != nil {
		return Written{}, invalid(nil, "Nothing was written: %s", inSentence(err))
	}
	out := Written{Branch: strings.TrimSpace(r.Branch), Hash: hash, Commits: len(changes), Forward: r.Forward}
	if out.Branch == "" {
		out.Branch = plan.Branch
	}
	started := ""
	if r.Forward {
		out.Branch, started = side.target.Branch, side.hash
	}
	id, err := s.store.BeginWrite(ctx, store.TargetWrite{Branch: out.Branch, Started: started, Hash: hash}, append([]string{}, slugs...))
	if err != nil {
		return Written{}, err
	}
	if err := side.repo.Move(out.Branch, started, hash); err != nil {
		ended := s.store.EndWrite(ctx, id, "gone")
		if errors.Is(err, gitrepo.ErrMoved) {
			return Written{}, errors.Join(&Failure{Kind: Conflict, Message: inSentence(err) + " Nothing was written."}, ended)
		}
		return Written{}, errors.Join(invalid(nil, "%s", inSentence(err)), ended)
	}
	if err := s.store.EndWrite(ctx, id, "done"); err != nil {
		return out, err
	}
	if r.Forward {
		_, err = s.ReadTarget(ctx)
	}
	return out, err
}

// WritePatch gives what a branch would hold as a patch, as git apply reads it.
func (s *Service) WritePatch(ctx context.Context, r WriteRequest) (SourceText, error) {
	plan, side, err := s.planWrite(ctx, r)
	if err != nil {
		return SourceText{}, err
	}
	if plan.Blocked != "" {
		return SourceText{}, invalid(nil, "%s", plan.Blocked)
	}
	files := map[string][]byte{}
	for _, c := range plan.Components {
		for _, f := range c.Files {
			files[f.Name] = f.text
		}
	}
	hash, err := side.repo.Build(side.hash, []gitrepo.Change{{Files: files, Message: "patch"}}, gitrepo.Author{Name: side.target.Author, Email: side.target.Email}, time.Unix(0, 0))
	if err != nil {
		return SourceText{}, invalid(nil, "%s", inSentence(err))
	}
	text, err := side.repo.Patch(side.hash, hash)
	return SourceText{Name: "cobrik.patch", Text: []byte(text)}, err
}
