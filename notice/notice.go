// Package notice signs what a service tells another, and checks such signatures: HTTP Message Signatures (RFC 9421) with a shared secret
// (hmac-sha256) over the method, the path, and a digest of the content (RFC 9530).
package notice

import (
	"crypto/hmac"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"fmt"
	"net/http"
	"regexp"
	"strconv"
	"strings"
	"time"
)

// Lasts is how long a signature is good for, either way: clocks differ, and what was sent long ago is not to be sent again by others.
const Lasts = 5 * time.Minute

// covered are the components that are signed (RFC 9421, 2), in this order.
var covered = []string{"@method", "@path", "content-digest"}

// label names the signature in the fields (RFC 9421, 4.1).
const label = "notice"

// Sign signs a request whose content is a text, as made at a time.
func Sign(r *http.Request, content []byte, secret string, at time.Time) {
	r.Header.Set("Content-Digest", digest(content))
	parameters := fmt.Sprintf(`("%s");created=%d;alg="hmac-sha256"`, strings.Join(covered, `" "`), at.Unix())
	r.Header.Set("Signature-Input", label+"="+parameters)
	r.Header.Set("Signature", label+"=:"+base64.StdEncoding.EncodeToString(sum(secret, base(r, parameters)))+":")
}

var input = regexp.MustCompile(`^` + label + `=(\("@method" "@path" "content-digest"\);created=(\d{1,12});alg="hmac-sha256")$`)

// ErrUnsigned means that a request does not come from whoever has the secret, or did so long ago. What is wrong with it is not said: who
// guesses learns nothing.
var ErrUnsigned = errors.New("the signature is missing, wrong or too old")

// Verify checks that whoever has the secret sent a request with this content, lately.
func Verify(r *http.Request, content []byte, secret string, now time.Time) error {
	m := input.FindStringSubmatch(r.Header.Get("Signature-Input"))
	if m == nil || secret == "" {
		return ErrUnsigned
	}
	created, err := strconv.ParseInt(m[2], 10, 64)
	if age := now.Sub(time.Unix(created, 0)); err != nil || age > Lasts || age < -Lasts {
		return ErrUnsigned
	}
	encoded, ok := strings.CutPrefix(r.Header.Get("Signature"), label+"=:")
	encoded, closed := strings.CutSuffix(encoded, ":")
	got, err := base64.StdEncoding.DecodeString(encoded)
	if !ok || !closed || err != nil || !hmac.Equal(got, sum(secret, base(r, m[1]))) || r.Header.Get("Content-Digest") != digest(content) {
		return ErrUnsigned
	}
	return nil
}

// base is the text that is signed (RFC 9421, 2.5).
func base(r *http.Request, parameters string) string {
	value := map[string]string{"@method": r.Method, "@path": r.URL.EscapedPath(), "content-digest": r.Header.Get("Content-Digest")}
	var b strings.Builder
	for _, name := range covered {
		fmt.Fprintf(&b, "%q: %s\n", name, value[name])
	}
	return b.String() + `"@signature-params": ` + parameters
}

// digest is a content's (RFC 9530, 2).
func digest(content []byte) string {
	sum := sha256.Sum256(content)
	return "sha-256=:" + base64.StdEncoding.EncodeToString(sum[:]) + ":"
}

func sum(secret, text string) []byte {
	mac := hmac.New(sha256.New, []byte(secret))
	mac.Write([]byte(text))
	return mac.Sum(nil)
}
