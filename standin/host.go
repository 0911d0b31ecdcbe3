// Package standin holds small simulated outside services that ship with
// Cobrik, so that the whole story runs without a network.
package standin

import (
	"bytes"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"sync"
	"time"

	"cobrik/notice"
)

// Host is a simulated design host: it serves design documents, each with
// several prepared revisions, over HTTP.
//
//	GET  /documents               the documents and their current revision
//	GET  /documents/{id}          the current revision; ETag and If-None-Match (RFC 9110, 13.1.2)
//	POST /documents/{id}/publish  makes the next prepared revision current; 409 when there is none
//
// Where it is told whom to notify, it posts {"id", "revision"} there when a revision becomes current, signed (package notice).
type Host struct {
	mu        sync.Mutex
	revisions map[string][][]byte
	current   map[string]int // index of the current revision
	state     string         // file that keeps current; empty keeps nothing
	notify    []Notify
}

// Notify is who is told of new revisions, and the secret that notices are signed with.
type Notify struct{ URL, Secret string }

// NewHost serves prepared revisions by document id, beginning with the first.
// Which one is current is kept in the state file between starts.
func NewHost(revisions map[string][][]byte, state string, notify ...Notify) (*Host, error) {
	h := &Host{revisions: revisions, current: map[string]int{}, state: state, notify: notify}
	if state == "" {
		return h, nil
	}
	text, err := os.ReadFile(state)
	if os.IsNotExist(err) {
		return h, nil
	}
	if err != nil {
		return nil, err
	}
	if err := json.Unmarshal(text, &h.current); err != nil {
		return nil, fmt.Errorf("%s: %w", state, err)
	}
	for id, n := range h.current {
		if n < 0 || n >= len(revisions[id]) {
			delete(h.current, id)
		}
	}
	return h, nil
}

// Handler gives the host's routes.
func (h *Host) Handler() http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /documents", h.list)
	mux.HandleFunc("GET /documents/{id}", h.document)
	mux.HandleFunc("POST /documents/{id}/publish", h.publish)
	return mux
}

type listed struct {
	ID       string `json:"id"`
	Revision int    `json:"revision"`
	Prepared int    `json:"prepared"` // revisions there are in all
}

func (h *Host) list(w http.ResponseWriter, _ *http.Request) {
	h.mu.Lock()
	defer h.mu.Unlock()
	out := []listed{}
	for id := range h.revisions {
		out = append(out, h.listed(id))
	}
	answer(w, http.StatusOK, out)
}

func (h *Host) listed(id string) listed {
	return listed{id, h.current[id] + 1, len(h.revisions[id])}
}

func (h *Host) document(w http.ResponseWriter, r *http.Request) {
	h.mu.Lock()
	defer h.mu.Unlock()
	id := r.PathValue("id")
	all := h.revisions[id]
	if all == nil {
		http.NotFound(w, r)
		return
	}
	text := all[h.current[id]]
	etag := ETag(text)
	w.Header().Set("ETag", etag)
	w.Header().Set("Cache-Control", "no-cache")
	if r.Header.Get("If-None-Match") == etag {
		w.WriteHeader(http.StatusNotModified)
		return
	}
	w.Header().Set("Content-Type", "application/json")
	_, _ = w.Write(text) // a reader that went away is no error of ours
}

func (h *Host) publish(w http.ResponseWriter, r *http.Request) {
	h.mu.Lock()
	defer h.mu.Unlock()
	id := r.PathValue("id")
	all := h.revisions[id]
	switch {
	case all == nil:
		http.NotFound(w, r)
		return
	case h.current[id]+1 >= len(all):
		answer(w, http.StatusConflict, map[string]string{"message": "no further revision is prepared"})
		return
	}
	h.current[id]++
	if h.state != "" {
		text, _ := json.Marshal(h.current) // a map of ints always encodes
		if err := os.WriteFile(h.state, text, 0o600); err != nil {
			h.current[id]--
			answer(w, http.StatusInternalServerError, map[string]string{"message": err.Error()})
			return
		}
	}
	for _, n := range h.notify {
		go n.tell(h.listed(id))
	}
	answer(w, http.StatusOK, h.listed(id))
}

// tellAgain is how long a notice that was not taken waits before it is sent again.
var tellAgain = []time.Duration{200 * time.Millisecond, time.Second, 5 * time.Second}

// tell sends a notice, up to four times. One that never arrives is no harm: who is told also asks by itself.
func (n Notify) tell(what listed) {
	content, _ := json.Marshal(what) // plain data always encodes
	client := http.Client{Timeout: 5 * time.Second}
	for try := 0; ; try++ {
		request, err := http.NewRequest(http.MethodPost, n.URL, bytes.NewReader(content))
		if err != nil {
			return
		}
		request.Header.Set("Content-Type", "application/json")
		notice.Sign(request, content, n.Secret, time.Now())
		answer, err := client.Do(request)
		if err == nil {
			_ = answer.Body.Close()
			if answer.StatusCode < 500 {
				return
			}
		}
		if try == len(tellAgain) {
			return
		}
		time.Sleep(tellAgain[try])
	}
}

// ETag gives a text's entity tag.
func ETag(text []byte) string { return fmt.Sprintf(`"%x"`, sha256.Sum256(text)) }

func answer(w http.ResponseWriter, status int, v any) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(v)
}
