package service

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"time"

	"cobrik/core/design"
)

// hostClient asks a host, which it does not trust: every answer has a
// time limit and a size limit, and what does not answer is asked again, later.
type hostClient struct {
	base    string
	called  string // in sentences
	client  *http.Client
	backOff []time.Duration // waits before each further try
}

func newHostClient(base string) *hostClient {
	return &hostClient{
		base:    base,
		called:  "the design host",
		client:  &http.Client{Timeout: 8 * time.Second, CheckRedirect: sameOrigin},
		backOff: []time.Duration{150 * time.Millisecond, 500 * time.Millisecond},
	}
}

// sameOrigin follows the host within itself alone: it could send to what only this machine reaches.
func sameOrigin(to *http.Request, via []*http.Request) error {
	from := via[0].URL
	if to.URL.Scheme != from.Scheme || to.URL.Host != from.Host {
		return errHost{reason: "the host sends to " + to.URL.Scheme + "://" + to.URL.Host + ", which is not followed"}
	}
	if len(via) > 5 {
		return errHost{reason: "the host sends on and on"}
	}
	return nil
}

// fetched is a document's text; nil Text means that it did not change.
type fetched struct {
	Text []byte
	ETag string
}

// errHost marks failures of the host, not of ours. Some may pass when it is
// asked again.
type errHost struct {
	reason  string
	passing bool
}

func (e errHost) Error() string { return e.reason }

// document asks for a document unless it still has the entity tag.
func (c *hostClient) document(ctx context.Context, id, etag string) (fetched, error) {
	var out fetched
	err := c.ask(ctx, http.MethodGet, "/documents/"+url.PathEscape(id), etag, func(r *http.Response) error {
		switch r.StatusCode {
		case http.StatusNotModified:
			return nil
		case http.StatusOK:
		default:
			return errHost{reason: fmt.Sprintf("the design host answered %s for %s", r.Status, id)}
		}
		text, err := io.ReadAll(io.LimitReader(r.Body, int64(design.Limits.Bytes)+1))
		if err != nil {
			return errHost{"the design host broke off while sending " + id, true}
		}
		if len(text) > design.Limits.Bytes {
			return errHost{reason: fmt.Sprintf("the design host sent more than %d MB for %s", design.Limits.Bytes>>20, id)}
		}
		out = fetched{text, r.Header.Get("ETag")}
		return nil
	})
	return out, err
}

// publish asks the simulated host to make its next prepared revision current.
func (c *hostClient) publish(ctx context.Context, id string) error {
	return c.ask(ctx, http.MethodPost, "/documents/"+url.PathEscape(id)+"/publish", "", func(r *http.Response) error {
		if r.StatusCode == http.StatusConflict {
			return &Failure{Kind: Invalid, Message: "The design host has no further revision prepared."}
		}
		if r.StatusCode != http.StatusOK {
			return errHost{reason: fmt.Sprintf("the design host answered %s", r.Status)}
		}
		return nil
	})
}

// ask sends a request and hands its answer over. A GET is tried again, after a
// while, when the host cannot be reached or answers with a server error.
func (c *hostClient) ask(ctx context.Context, method, path, etag string, read func(*http.Response) error) error {
	var last error
	for try := 0; ; try++ {
		last = c.once(ctx, method, path, etag, read)
		var down errHost
		if !errors.As(last, &down) || !down.passing || method != http.MethodGet || try >= len(c.backOff) {
			return last
		}
		select {
		case <-ctx.Done():
			return errHost{reason: c.called + " was not waited for any longer"}
		case <-time.After(c.backOff[try]):
		}
	}
}

func (c *hostClient) once(ctx context.Context, method, path, etag string, read func(*http.Response) error) error {
	request, err := http.NewRequestWithContext(ctx, method, c.base+path, nil)
	if err != nil {
		return err
	}
	if etag != "" {
		request.Header.Set("If-None-Match", etag)
	}
	r, err := c.client.Do(request)
	var sent errHost
	if errors.As(err, &sent) {
		return sent
	}
	if err != nil {
		return errHost{c.called + " at " + c.base + " does not answer", true}
	}
	defer r.Body.Close()
	if r.StatusCode >= 500 {
		return errHost{fmt.Sprintf("%s answered %s", c.called, r.Status), true}
	}
	return read(r)
}
