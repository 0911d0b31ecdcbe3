package service

import (
	"context"
	"encoding/json"
)

// HereSubject begins a live event that says where somebody is.
const HereSubject = "here "

// Here says where somebody is, to all who look at the same project. Nothing is kept of it.
type Here struct {
	Tab  string `json:"tab" minLength:"1" maxLength:"60" doc:"Tells one window from another"`
	Name string `json:"name" maxLength:"60"`
	Slug string `json:"slug" maxLength:"200" doc:"Of the component on the bench; empty for gone from it"`
	At   string `json:"at" maxLength:"400" doc:"Which facet, or which cell of the sheet"`
	Asks bool   `json:"asks,omitempty" doc:"It has just come, and asks the others where they are"`
}

// TellHere passes on where somebody is.
func (s *Service) TellHere(ctx context.Context, h Here) error {
	text, err := json.Marshal(h)
	if err != nil {
		return err
	}
	return s.store.Tell(ctx, HereSubject+string(text))
}
