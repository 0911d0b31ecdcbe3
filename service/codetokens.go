package service

import (
	"context"
	"fmt"
	"path"
	"slices"
	"strings"

	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/store"
)

// CodeToken is a token, or a file of tokens, that the repository and the project do not say alike any more.
type CodeToken struct {
	Key     string `json:"key" doc:"The same for the same token in every reading"`
	Kind    string `json:"kind" enum:"token,token renamed,file added,file removed,file renamed,file missing"`
	File    string `json:"file" doc:"Its name in the project; that in the repository for one that the project has not"`
	Path    string `json:"path" doc:"Of the token; empty for a file"`
	Base    string `json:"base" doc:"What both said last; empty for nothing"`
	Ours    string `json:"ours" doc:"What the project says"`
	Theirs  string `json:"theirs" doc:"What the repository says"`
	From    string `json:"from" doc:"The token's path, or the file's name, before it was renamed"`
	Side    string `json:"side" enum:"contract,code,several" doc:"Who moved: the project, the repository, or both"`
	Outcome string `json:"outcome" enum:",back"`

	place, before, said string // in the file: where, where it was, and what the repository says, whole
}

// waits tells whether nobody decided it: what the project alone moved is written with the next branch.
func (t CodeToken) waits() bool { return t.Side != "contract" && t.Outcome == "" }

// CodeTokens are the token files as the repository has them, held against the project's.
type CodeTokens struct {
	Read     bool         `json:"read" doc:"The target has a folder of token files"`
	Revision int          `json:"revision" doc:"Of the project's tokens; a decision carries it"`
	List     []CodeToken  `json:"list"`
	Unread   problem.List `json:"unread" doc:"Files of the repository that are no token files"`
}

// tokenFiles are both sides' files, by name, and what both had last.
type tokenFiles struct {
	ours, theirs, base map[string][]byte
	names              []string // the project's, in their order, then those that the repository alone has
}

// isTokenFile tells by its name whether a file of the repository is one of tokens.
func isTokenFile(name string) bool {
	return strings.HasSuffix(name, ".tokens.json") || strings.HasSuffix(name, ".tokens") || strings.HasSuffix(name, ".resolver.json")
}

func (s *Service) tokenFiles(ctx context.Context, side *codeSide) (out tokenFiles, err error) {
	out = tokenFiles{ours: map[string][]byte{}, theirs: map[string][]byte{}}
	for _, f := range side.lib.stored {
		if f.Name != ProjectFile {
			out.ours[f.Name] = f.Content
			out.names = append(out.names, f.Name)
		}
	}
	if out.base, err = s.store.TokenBases(ctx); err != nil {
		return out, err
	}
	files, err := recalled(&s.memo, "token files "+side.target.Path+" "+side.target.Tokens+" "+side.hash+" "+strings.Join(out.names, " "), func() (map[string][]byte, error) {
		return side.repo.Files(side.hash, func(name string) bool {
			return path.Dir(name) == side.target.Tokens && (isTokenFile(name) || out.ours[path.Base(name)] != nil)
		})
	})
	var more []string
	for name, text := range files {
		base := path.Base(name)
		if out.theirs[base] = text; out.ours[base] == nil {
			more = append(more, base)
		}
	}
	slices.Sort(more)
	out.names = append(out.names, more...)
	return out, err
}

// known gives what both had last of a file: as the project has it now where that is not known.
func (f tokenFiles) known(name string) []byte {
	if base, ok := f.base[name]; ok {
		return base
	}
	if f.theirs[name] != nil {
		return f.ours[name]
	}
	return nil
}

// codeTokens lists what token files say otherwise.
func (s *Service) codeTokens(ctx context.Context, side *codeSide) (CodeTokens, error) {
	out := CodeTokens{Read: side.target.Tokens != "", Revision: side.lib.state.Number, List: []CodeToken{}, Unread: problem.List{}}
	if !out.Read {
		return out, nil
	}
	f, err := s.tokenFiles(ctx, side)
	if err != nil {
		return out, err
	}
	decided, err := s.store.TokenDecisions(ctx)
	if err != nil {
		return out, err
	}
	renamed := f.renamed()
	for _, name := range f.names {
		ours, theirs := f.ours[name], f.theirs[name]
		switch {
		case slices.Contains(renamed, name) && ours == nil:
		case ours == nil && f.base[name] != nil: // the project took it out
			out.List = append(out.List, CodeToken{Kind: "file removed", File: name, Theirs: "there", Base: "there", Side: "contract"})
		case ours == nil:
			out.List = append(out.List, CodeToken{Kind: "file added", File: name, Theirs: "there", Side: "code"})
		case theirs == nil && renamed.of(name) != "":
			out.List = append(out.List, CodeToken{Kind: "file renamed", File: renamed.of(name), From: name, Base: name, Ours: name, Theirs: renamed.of(name), Side: "code"})
		case theirs == nil && f.base[name] == nil:
			out.List = append(out.List, CodeToken{Kind: "file missing", File: name, Ours: "there", Side: "contract"})
		case theirs == nil:
			out.List = append(out.List, CodeToken{Kind: "file removed", File: name, Base: "there", Ours: "there", Side: "code"})
		default:
			met, found := token.Meet(name, f.known(name), ours, theirs)
			if found.Failed() {
				out.Unread = append(out.Unread, found...)
				continue
			}
			for _, m := range met {
				one := CodeToken{Kind: "token", File: name, Path: m.Path, Base: token.Brief(m.Base), Ours: token.Brief(m.Ours), Theirs: token.Brief(m.Theirs), said: m.Theirs, place: m.At, before: m.From,
					Side: map[string]string{"ours": "contract", "theirs": "code", "both": "several"}[m.Side()]}
				if m.From != "" {
					one.Kind, one.From, one.Base, one.Ours = "token renamed", dotted(m.From), one.Theirs, one.Theirs
				}
				out.List = append(out.List, one)
			}
		}
	}
	for i := range out.List {
		t := &out.List[i]
		t.Key = t.Kind + " " + t.File + " " + t.place
		if slices.Contains(decided, store.TokenDecision{File: t.File, Place: t.Kind + " " + t.place, Said: t.said}) {
			t.Outcome = "back"
		}
	}
	return out, nil
}

// dotted writes a place as a token's path.
func dotted(place string) string {
	return strings.NewReplacer("/", ".", "~1", "/", "~0", "~").Replace(strings.TrimPrefix(place, "/"))
}

// renamings are names of files in pairs: as the project has it, and as the repository has it now.
type renamings []string

func (r renamings) of(name string) string {
	for i := 0; i+1 < len(r); i += 2 {
		if r[i] == name {
			return r[i+1]
		}
	}
	return ""
}

// renamed pairs files that the repository took away with those that it added, where one alone says the same.
func (f tokenFiles) renamed() (out renamings) {
	for _, gone := range f.names {
		if f.ours[gone] == nil || f.theirs[gone] != nil || f.base[gone] == nil {
			continue
		}
		var like []string
		for _, came := range f.names {
			if f.ours[came] == nil && f.base[came] == nil {
				if met, found := token.Meet(came, nil, f.base[gone], f.theirs[came]); !found.Failed() && len(met) == 0 {
					like = append(like, came)
				}
			}
		}
		if len(like) == 1 {
			out = append(out, gone, like[0])
		}
	}
	return out
}

// levelTokens keeps what both have by now.
func (s *Service) levelTokens(ctx context.Context, side *codeSide) error {
	if side.target.Tokens == "" {
		return nil
	}
	f, err := s.tokenFiles(ctx, side)
	if err != nil {
		return err
	}
	keep := map[string][]byte{}
	for _, name := range f.names {
		ours, theirs := f.ours[name], f.theirs[name]
		if ours == nil || theirs == nil {
			continue
		}
		met, found := token.Meet(name, f.known(name), ours, theirs)
		if found.Failed() {
			continue
		}
		var apart []string
		for _, m := range met {
			if apart = append(apart, m.At); m.From != "" {
				apart = append(apart, m.From)
			}
		}
		base, found := token.Taken(name, ours, f.known(name), apart)
		if !found.Failed() && string(base) != string(f.base[name]) {
			keep[name] = base
		}
	}
	for name := range f.base {
		if f.ours[name] == nil && f.theirs[name] == nil {
			keep[name] = nil
		}
	}
	if len(keep) == 0 {
		return nil
	}
	return s.store.PutTokenBases(ctx, keep)
}

// TokenDecisionRequest says what becomes of tokens that the repository has otherwise, by their keys.
type TokenDecisionRequest struct {
	Revision int      `json:"revision" doc:"Of the project's tokens, that was read"`
	Hash     string   `json:"hash" doc:"Commit that was read"`
	Take     []string `json:"take,omitempty" doc:"The project is to say what the repository says"`
	Back     []string `json:"back,omitempty" doc:"The repository is to say what the project says"`
	Clear    []string `json:"clear,omitempty" doc:"Nothing is decided any more"`
}

// DecideTokens carries such a decision out. What is renamed in the repository is renamed in the project first, and what refers to it follows; the rest that is
// taken is one revision of the tokens.
func (s *Service) DecideTokens(ctx context.Context, d TokenDecisionRequest) (TokenRevision, error) {
	out := TokenRevision{Revision: d.Revision}
	side, ok, err := s.codeNow(ctx)
	if err != nil {
		return out, err
	}
	if !ok || d.Hash != "" && d.Hash != side.hash {
		return out, &Failure{Kind: Conflict, Message: "The repository moved since you read it. Read it again."}
	}
	if d.Revision != side.lib.state.Number {
		return out, staleTokens()
	}
	now, err := s.codeTokens(ctx, side)
	if err != nil {
		return out, err
	}
	f, err := s.tokenFiles(ctx, side)
	if err != nil {
		return out, err
	}
	byKey := map[string]CodeToken{}
	for _, t := range now.List {
		byKey[t.Key] = t
	}
	var put, clear []store.TokenDecision
	for i, key := range append(slices.Clone(d.Back), d.Clear...) {
		t, there := byKey[key]
		if !there || t.Side == "contract" {
			return out, invalid(nil, "There is no such move of the repository any more: %s", key)
		}
		one := store.TokenDecision{File: t.File, Place: t.Kind + " " + t.place, Said: t.said}
		if i < len(d.Back) {
			put = append(put, one)
		} else {
			clear = append(clear, one)
		}
	}
	var take []CodeToken
	for _, key := range d.Take {
		t, there := byKey[key]
		if !there || t.Side == "contract" {
			return out, invalid(nil, "There is no such move of the repository any more: %s", key)
		}
		take = append(take, t)
	}
	if out.Revision, err = s.takeTokens(ctx, out.Revision, take, f, side.hash); err != nil || len(put)+len(clear) == 0 {
		return out, err
	}
	return out, s.store.PutTokenDecisions(ctx, put, clear)
}

func (s *Service) takeTokens(ctx context.Context, revision int, take []CodeToken, f tokenFiles, hash string) (int, error) {
	var renames []TokenEdit
	places := map[string][]string{}
	var order []string
	place := func(t CodeToken) {
		if places[t.File] == nil {
			order = append(order, t.File)
		}
		places[t.File] = append(places[t.File], t.place)
	}
	for _, t := range take {
		switch t.Kind {
		case "token renamed":
			place(t)                                                                                          // as it is written there, once it is called so
			if one := (TokenEdit{Kind: "rename", Path: t.From, To: t.Path}); !slices.Contains(renames, one) { // themes have it, too
				renames = append(renames, one)
			}
		case "file renamed":
			r, err := s.RenameTokenFile(ctx, revision, t.From, t.File)
			if err != nil {
				return revision, err
			}
			revision = r.Revision
		case "file removed":
			r, err := s.RemoveTokenFile(ctx, revision, t.File)
			if err != nil {
				return revision, err
			}
			revision = r.Revision
		default:
			place(t)
		}
	}
	if len(renames) > 0 {
		r, err := s.EditTokens(ctx, revision, renames)
		if err != nil {
			return revision, err
		}
		revision = r.Revision
	}
	if len(order) == 0 {
		return revision, nil
	}
	l, err := s.library(ctx)
	if err != nil {
		return revision, err
	}
	after := l
	n := 0
	for _, name := range order {
		var ours []byte
		if stored, err := after.storedFile(name); err == nil {
			ours = stored.Content
		}
		text, found := token.Taken(name, ours, f.theirs[name], places[name])
		if found.Failed() {
			return revision, invalid(found, "Nothing was taken: %s", found[0].Message)
		}
		n += len(places[name])
		files, _ := after.with(name, text)
		if after, err = openLibrary(ctx, l.state, files); err != nil {
			return revision, err
		}
	}
	_, left, err := s.follow(ctx, nil, &tokenChange{before: l, after: after})
	if err != nil {
		return revision, err
	}
	if left.Failed() {
		return revision, invalid(left, "Nothing was taken, for %s would not have its tokens any more: %s", left[0].File, left[0].Message)
	}
	r, err := s.putFiles(ctx, revision, l, after, fmt.Sprintf("%s taken from the repository at %.7s", several(n, "token", "tokens"), hash))
	return r.Revision, err
}

// tokensToWrite works out the commit that brings the repository's token files in step; nil where there is nothing to write.
func (s *Service) tokensToWrite(ctx context.Context, side *codeSide) (*WriteComponent, error) {
	now, err := s.codeTokens(ctx, side)
	if err != nil || !now.Read {
		return nil, err
	}
	f, err := s.tokenFiles(ctx, side)
	if err != nil {
		return nil, err
	}
	out := &WriteComponent{Name: "Token files", Files: []WriteFile{}, Conflicts: []FileConflict{}, Left: []string{}, Also: []string{}}
	places := map[string][]string{}
	var order, lines []string
	for _, t := range now.List {
		if t.Side != "contract" && t.Outcome != "back" {
			continue
		}
		line := "- " + t.File
		at := path.Join(side.target.Tokens, t.File)
		switch t.Kind {
		case "file missing":
			out.addAt(at, nil, f.ours[t.File])
		case "file removed":
			if f.ours[t.File] == nil {
				continue // nothing is taken out of a repository
			}
			out.addAt(at, nil, f.ours[t.File])
		case "file renamed":
			out.addAt(path.Join(side.target.Tokens, t.From), nil, f.ours[t.From])
			line = "- " + t.From
		case "file added":
			continue // it stays beside
		default:
			if places[t.File] == nil {
				order = append(order, t.File)
			}
			if places[t.File] = append(places[t.File], t.place); t.before != "" {
				places[t.File] = append(places[t.File], t.before)
			}
			line = "- " + t.Path
		}
		lines = append(lines, line)
	}
	for _, name := range order {
		text, found := token.Taken(name, f.theirs[name], f.ours[name], places[name])
		if found.Failed() {
			out.Left = append(out.Left, name+": "+found[0].Message)
			continue
		}
		out.addAt(path.Join(side.target.Tokens, name), f.theirs[name], text)
	}
	if len(out.Files) == 0 && len(out.Left) == 0 {
		return nil, nil
	}
	out.Message = fmt.Sprintf("Tokens: %s in step\n\n%s\n", several(len(lines), "change", "changes"), strings.Join(lines, "\n"))
	return out, nil
}
