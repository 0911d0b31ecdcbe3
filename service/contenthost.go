package service

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/url"

	"cobrik/core/content"
)

// contentClient asks the content host, as the design host is asked: nothing of it is trusted.
type contentClient struct{ hostClient }

func newContentClient(base string) *contentClient {
	c := contentClient{*newHostClient(base)}
	c.called = "the content host"
	return &c
}

// mostHostPages bounds how many pages of a collection are read.
const mostHostPages = 2_000

func (c *contentClient) json(ctx context.Context, path string, into any) error {
	return c.ask(ctx, http.MethodGet, path, "", func(r *http.Response) error {
		if r.StatusCode != http.StatusOK {
			return errHost{reason: fmt.Sprintf("%s answered %s for %s", c.called, r.Status, path)}
		}
		text, err := io.ReadAll(io.LimitReader(r.Body, int64(content.Limits.Bytes)+1))
		if err != nil {
			return errHost{c.called + " broke off while sending " + path, true}
		}
		if len(text) > content.Limits.Bytes {
			return errHost{reason: fmt.Sprintf("%s sent more than %d MB for %s", c.called, content.Limits.Bytes>>20, path)}
		}
		if json.Unmarshal(text, into) != nil {
			return errHost{reason: fmt.Sprintf("%s sent no JSON that can be read for %s", c.called, path)}
		}
		return nil
	})
}

// collections lists what the host has.
func (c *contentClient) collections(ctx context.Context) ([]ContentCollection, error) {
	var out []ContentCollection
	err := c.json(ctx, "/collections", &out)
	return out, err
}

// records reads a collection whole, page by page.
func (c *contentClient) records(ctx context.Context, collection string) ([]json.RawMessage, error) {
	out := []json.RawMessage{}
	path := "/collections/" + url.PathEscape(collection)
	for page := 0; path != ""; page++ {
		var one struct {
			Records []json.RawMessage `json:"records"`
			Next    string            `json:"next"`
		}
		if err := c.json(ctx, path, &one); err != nil {
			return nil, err
		}
		if out = append(out, one.Records...); len(out) > content.MostRecords || page >= mostHostPages {
			return nil, errHost{reason: fmt.Sprintf("%s has more than %d records of %s", c.called, content.MostRecords, collection)}
		}
		next, err := url.Parse(one.Next)
		if err != nil || next.IsAbs() || next.Host != "" {
			return nil, errHost{reason: c.called + " sends elsewhere for the next page, which is not followed"}
		}
		path = one.Next
	}
	return out, nil
}
