package server

import (
	"context"
	"fmt"
	"log/slog"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"

	"cobrik/service"
	"cobrik/store"
)

// Events passes on what any server changed to the browsers listening here, as
// server-sent events (HTML, 9.2).
type Events struct {
	mu        sync.Mutex
	listeners map[chan string]int64 // the project each is told of
	done      <-chan struct{}
}

// Listen starts passing on changes until the context ends. A lost database connection is
// taken up again.
func Listen(ctx context.Context, db *store.Database, log *slog.Logger) *Events {
	e := &Events{listeners: map[chan string]int64{}, done: ctx.Done()}
	go func() {
		for ctx.Err() == nil {
			err := db.Listen(ctx, e.tell)
			if ctx.Err() != nil {
				return
			}
			log.Warn("live events: connection lost, trying again", "error", err)
			select {
			case <-ctx.Done():
			case <-time.After(time.Second):
			}
		}
	}()
	return e
}

func (e *Events) tell(project int64, subject string) {
	e.mu.Lock()
	defer e.mu.Unlock()
	for l, of := range e.listeners {
		if of != project || strings.HasPrefix(subject, service.HereSubject) && len(l) > cap(l)/2 {
			continue // changes come first
		}
		select {
		case l <- subject:
		default: // a slow browser misses one; the next makes it read all again
		}
	}
}

func (e *Events) serve(c *gin.Context, project int64) {
	l := make(chan string, 16)
	e.mu.Lock()
	e.listeners[l] = project
	e.mu.Unlock()
	defer func() {
		e.mu.Lock()
		delete(e.listeners, l)
		e.mu.Unlock()
	}()
	c.Header("Content-Type", "text/event-stream")
	c.Header("Cache-Control", "no-cache")
	fmt.Fprint(c.Writer, ": listening\n\n")
	c.Writer.Flush()
	alive := time.NewTicker(20 * time.Second)
	defer alive.Stop()
	for {
		select {
		case <-e.done:
			return
		case <-c.Request.Context().Done():
			return
		case subject := <-l:
			fmt.Fprintf(c.Writer, "data: %s\n\n", subject)
		case <-alive.C:
			fmt.Fprint(c.Writer, ": alive\n\n")
		}
		c.Writer.Flush()
	}
}
