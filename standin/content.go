package standin

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

// Content is a simulated content host: it serves collections of records, page by page, over HTTP.
//
//	GET  /collections         the collections, with how many records each has
//	GET  /collections/{name}  {"records": […], "next": "/collections/{name}?page=2"}; without next it is the last page
//	GET  /switches            what goes wrong on purpose
//	POST /switches            {"wait": ms before every answer, "fail": every so-manieth answer is a 503,
//	                           "leave": fields that records leave out, "page": records a page}
type Content struct {
	mu          sync.Mutex
	collections map[string][]map[string]any
	switches    Switches
	asked       int
}

// Switches say what goes wrong on purpose.
type Switches struct {
	Wait  int      `json:"wait"`  // ms, up to 10000
	Fail  int      `json:"fail"`  // every so-manieth answer; 1 for all, 0 for none
	Leave []string `json:"leave"` // names of fields that records leave out
	Page  int      `json:"page"`  // records a page, 1 to 1000
}

// usualPage is how many records a page has before somebody says otherwise.
const usualPage = 20

// NewContent serves collections, each a JSON list of objects, by their names.
func NewContent(collections map[string][]byte) (*Content, error) {
	c := &Content{collections: map[string][]map[string]any{}, switches: Switches{Page: usualPage, Leave: []string{}}}
	for name, text := range collections {
		var list []map[string]any
		if err := json.Unmarshal(text, &list); err != nil {
			return nil, fmt.Errorf("the collection %s: %w", name, err)
		}
		c.collections[name] = list
	}
	return c, nil
}

// Handler gives the host's routes.
func (c *Content) Handler() http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /collections", c.troubled(c.list))
	mux.HandleFunc("GET /collections/{name}", c.troubled(c.page))
	mux.HandleFunc("GET /switches", func(w http.ResponseWriter, _ *http.Request) { answer(w, http.StatusOK, c.now()) })
	mux.HandleFunc("POST /switches", c.set)
	return mux
}

func (c *Content) now() Switches {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.switches
}

// troubled lets go wrong what is switched on.
func (c *Content) troubled(do http.HandlerFunc) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		c.mu.Lock()
		c.asked++
		s, fails := c.switches, c.switches.Fail > 0 && c.asked%c.switches.Fail == 0
		c.mu.Unlock()
		if s.Wait > 0 {
			select {
			case <-r.Context().Done():
				return
			case <-time.After(time.Duration(s.Wait) * time.Millisecond):
			}
		}
		if fails {
			answer(w, http.StatusServiceUnavailable, map[string]string{"message": "switched to fail"})
			return
		}
		do(w, r)
	}
}

func (c *Content) list(w http.ResponseWriter, _ *http.Request) {
	type collection struct {
		Name    string `json:"name"`
		Records int    `json:"records"`
	}
	out := []collection{}
	for name, list := range c.collections {
		out = append(out, collection{name, len(list)})
	}
	slices.SortFunc(out, func(a, b collection) int { return strings.Compare(a.Name, b.Name) })
	answer(w, http.StatusOK, out)
}

func (c *Content) page(w http.ResponseWriter, r *http.Request) {
	name := r.PathValue("name")
	list, ok := c.collections[name]
	if !ok {
		http.NotFound(w, r)
		return
	}
	s := c.now()
	page, err := strconv.Atoi(r.URL.Query().Get("page"))
	if err != nil || page < 1 {
		page = 1
	}
	from := min((page-1)*s.Page, len(list))
	to := min(from+s.Page, len(list))
	out := map[string]any{}
	records := []map[string]any{}
	for _, record := range list[from:to] {
		left := map[string]any{}
		for field, value := range record {
			if !slices.Contains(s.Leave, field) {
				left[field] = value
			}
		}
		records = append(records, left)
	}
	out["records"] = records
	if to < len(list) {
		out["next"] = fmt.Sprintf("/collections/%s?page=%d", name, page+1)
	}
	answer(w, http.StatusOK, out)
}

func (c *Content) set(w http.ResponseWriter, r *http.Request) {
	next := c.now()
	if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, 1<<16)).Decode(&next); err != nil {
		answer(w, http.StatusBadRequest, map[string]string{"message": "the switches are an object of wait, fail, leave and page"})
		return
	}
	next.Wait, next.Fail, next.Page = max(0, min(next.Wait, 10_000)), max(0, next.Fail), max(1, min(next.Page, 1000))
	if next.Leave == nil {
		next.Leave = []string{}
	}
	c.mu.Lock()
	c.switches, c.asked = next, 0
	c.mu.Unlock()
	answer(w, http.StatusOK, next)
}
