package server

import (
	"context"
	"errors"
	"log/slog"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"cobrik/core/problem"
	"cobrik/service"
	"cobrik/store"
)

// Trouble is the body of every answer that is not a success.
type Trouble struct {
	Status   int            `json:"status"`
	Message  string         `json:"message" doc:"What went wrong and what to do, for people"`
	Problems problem.List   `json:"problems,omitempty" doc:"Each thing wrong with the input"`
	Current  *service.Stale `json:"current,omitempty" doc:"Of a conflict: the state that came first"`
}

// Error implements error.
func (t *Trouble) Error() string { return t.Message }

// GetStatus implements huma.StatusError.
func (t *Trouble) GetStatus() int { return t.Status }

func init() {
	huma.DefaultArrayNullable = false // a list is [], never null
	huma.NewError = func(status int, message string, causes ...error) huma.StatusError {
		t := &Trouble{Status: status, Message: message}
		switch {
		case status == http.StatusRequestEntityTooLarge:
			t.Message = service.TooLargeFailure().Error()
		case status == http.StatusInternalServerError && message == "cannot read request body": // it broke off
			t.Status, t.Message = http.StatusBadRequest, "The request broke off."
		}
		for _, cause := range causes {
			var detail *huma.ErrorDetail
			if errors.As(cause, &detail) {
				t.Problems.Errorf("request", "/"+detail.Location, "", "%s", detail.Message)
			} else if cause != nil {
				t.Problems.Errorf("request", "", "", "%s", cause)
			}
		}
		return t
	}
}

var statuses = map[service.Kind]int{
	service.Invalid:     http.StatusUnprocessableEntity,
	service.NotFound:    http.StatusNotFound,
	service.Conflict:    http.StatusConflict,
	service.Unavailable: http.StatusBadGateway,
	service.TooLarge:    http.StatusRequestEntityTooLarge,
}

// trouble turns a use case's error into an answer. What is not a Failure is a
// fault of ours: it is logged, and the answer tells nothing of the inside.
func trouble(err error) *Trouble {
	var f *service.Failure
	switch {
	case errors.As(err, &f):
		return &Trouble{Status: statuses[f.Kind], Message: f.Message, Problems: f.Problems, Current: f.Current}
	case errors.Is(err, context.Canceled):
		return &Trouble{Status: 499, Message: "The request was given up."}
	case store.Down(err):
		slog.Warn("the database does not answer", "error", err)
		return &Trouble{Status: http.StatusServiceUnavailable, Message: "The database does not answer just now. It is started again; try once more in a moment."}
	case store.Unkeepable(err):
		return &Trouble{Status: http.StatusUnprocessableEntity, Message: "What was sent holds characters that cannot be kept: NUL, or what is not UTF-8."}
	}
	slog.Error("use case failed", "error", err)
	return &Trouble{Status: http.StatusInternalServerError, Message: broken}
}

const (
	broken     = "Something broke in the server. What was being done was not done; the log says more."
	retryAfter = "1" // second: how soon the database may be there again
)
