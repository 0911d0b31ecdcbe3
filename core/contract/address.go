package contract

import (
	"fmt"
	"net/url"
	"slices"
	"strings"
)

// longestAddress bounds an address, in bytes; one that holds its data may be longer.
const (
	longestAddress = 2_000
	longestData    = 2 << 20
)

// schemes that a link may lead to. What runs code (javascript:) or holds a page (data:) is
// not among them.
var schemes = []string{"", "http", "https", "mailto", "tel", "sms"}

// checkAddress tells why a link may not lead to an address; nil when it may (URL Standard, 4).
func checkAddress(address string) error {
	u, err := url.Parse(strings.TrimSpace(address))
	switch {
	case len(address) > longestAddress:
		return fmt.Errorf("the address is longer than %d bytes", longestAddress)
	case err != nil:
		return fmt.Errorf("%q is no address", address)
	case strings.ContainsFunc(address, func(r rune) bool { return r < ' ' }):
		return fmt.Errorf("%q: line feeds and tabs are not allowed in an address", address)
	case !slices.Contains(schemes, strings.ToLower(u.Scheme)):
		return fmt.Errorf("a link may not lead to %s:; expected http, https, mailto, tel or an address of the page's own", u.Scheme)
	}
	return nil
}

// pictures that an address may hold by itself.
var pictureData = []string{"image/png", "image/jpeg", "image/webp", "image/gif", "image/avif", "image/svg+xml"}

// checkSource tells why an image may not be taken from an address; nil when it may.
func checkSource(address string) error {
	kind, ok := strings.CutPrefix(strings.ToLower(address[:min(len(address), 40)]), "data:")
	if !ok {
		u, err := url.Parse(address)
		if err == nil && !slices.Contains([]string{"", "http", "https"}, strings.ToLower(u.Scheme)) {
			return fmt.Errorf("an image may not be taken from %s:; expected http, https, data or an address of the page's own", u.Scheme)
		}
		return checkAddress(address)
	}
	if len(address) > longestData {
		return fmt.Errorf("the image is larger than %d bytes", longestData)
	}
	if !slices.ContainsFunc(pictureData, func(p string) bool {
		rest, ok := strings.CutPrefix(kind, p)
		return ok && (strings.HasPrefix(rest, ",") || strings.HasPrefix(rest, ";"))
	}) {
		return fmt.Errorf("the address holds no image; expected data:%s or the like", pictureData[0])
	}
	return nil
}
