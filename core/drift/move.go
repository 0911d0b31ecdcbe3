// Package drift looks at all that moved apart in design, contract and code at once: which of it has one cause, who is to win, what was
// decided and why, and how far the three agree from day to day.
package drift

import (
	"cobrik/core/contract"
	"cobrik/core/css"
)

// Lane is what a contract is held against where a move was seen.
type Lane string

const (
	Design Lane = "design"
	Code   Lane = "code"
)

// Moved is one thing that is not said alike any more, as either lane has it.
type Moved struct {
	Component string         `json:"component" doc:"Its slug"`
	Of        string         `json:"of" doc:"The component's name"`
	Lane      Lane           `json:"lane" enum:"design,code"`
	Key       string         `json:"key" doc:"The same for the same move as long as it stands"`
	Side      string         `json:"side" enum:"design,contract,code,several" doc:"Who moved"`
	Facet     css.Facet      `json:"facet"`
	Kind      string         `json:"kind" doc:"value, prop renamed, option added …"`
	Property  string         `json:"property"`
	From      string         `json:"from" doc:"What was said before, with references; empty for nothing"`
	To        string         `json:"to" doc:"What whoever moved says now"`
	Said      string         `json:"said" doc:"In a sentence"`
	Cases     int            `json:"cases" doc:"Drawn cases it changes; 0 where that is not known"`
	Bump      contract.Level `json:"bump" enum:"none,patch,minor,major"`
	Open      bool           `json:"open" doc:"Nobody decided it"`
	Takable   bool           `json:"takable" doc:"A contract can hold it"`
}

// Value is the kind of a move of a value, in both lanes.
const Value = "value"

// Way is what becomes of a move.
type Way string

const (
	Take  Way = "take"  // the contract is to say what whoever moved says
	Keep  Way = "keep"  // the contract stays, and the design may differ
	Ask   Way = "ask"   // the designer is asked to follow
	Back  Way = "back"  // the code is to say what the contract says
	Leave Way = "leave" // the code may differ
	Merge Way = "merge" // the contract is to say what both changed, and the other is to follow
	Clear Way = "clear" // nothing is decided any more
)
