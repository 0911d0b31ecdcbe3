package notice

import (
	"encoding/base64"
	"net/http"
	"net/http/httptest"
	"os/exec"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var now = time.Unix(1618884473, 0)

func signed(content string) *http.Request {
	r := httptest.NewRequest(http.MethodPost, "http://shed.invalid/api/projects/a%20b/notices?x=1", strings.NewReader(content))
	Sign(r, []byte(content), "secret", now)
	return r
}

// RFC 9421, B.2.5: a request signed with hmac-sha256, its secret and its signature (values from memory; they fit each other).
func TestTheSignatureIsThatOfTheStandard(t *testing.T) {
	secret, err := base64.StdEncoding.DecodeString("uzvJfB4u3N0Jy4T7NZ75MDVcr8zSTInedJtkgcu46YW4XByzNJjxBdtjUkdJPBtbmHhIDi6pcl8jsasjlTMtDQ==")
	require.NoError(t, err)
	text := `"date": Tue, 20 Apr 2021 02:07:55 GMT
"@authority": example.com
"content-type": application/json
"@signature-params": ("date" "@authority" "content-type");created=1618884473;keyid="test-shared-secret"`
	assert.Equal(t, "pxcQw6G3AjtMBQjwo8XzkZf/bws5LelbaMk5rGIGtE8=", base64.StdEncoding.EncodeToString(sum(string(secret), text)))
	// RFC 9530, B.1, of {"hello": "world"} and a line feed
	assert.Equal(t, "sha-256=:RK/0qy18MlBSVnWgjwz6lZEWjP/lF5HF9bvEF8FabDg=:", digest([]byte("{\"hello\": \"world\"}\n")))
}

// The text that is signed is built as the standard says, and openssl signs it alike.
func TestOpensslSignsAlike(t *testing.T) {
	r := signed(`{"id":"furrow"}`)
	parameters := strings.TrimPrefix(r.Header.Get("Signature-Input"), "notice=")
	text := `"@method": POST
"@path": /api/projects/a%20b/notices
"content-digest": ` + r.Header.Get("Content-Digest") + `
"@signature-params": ("@method" "@path" "content-digest");created=1618884473;alg="hmac-sha256"`
	assert.Equal(t, text, base(r, parameters))
	program, err := exec.LookPath("openssl")
	if err != nil {
		t.Skip("openssl is not here")
	}
	cmd := exec.Command(program, "dgst", "-sha256", "-mac", "HMAC", "-macopt", "key:secret", "-binary")
	cmd.Stdin = strings.NewReader(text)
	out, err := cmd.Output()
	require.NoError(t, err)
	assert.Equal(t, "notice=:"+base64.StdEncoding.EncodeToString(out)+":", r.Header.Get("Signature"))
}

func TestOnlyWhatWasSignedIsTaken(t *testing.T) {
	const content = `{"id":"furrow"}`
	require.NoError(t, Verify(signed(content), []byte(content), "secret", now.Add(Lasts)))
	for name, change := range map[string]func(r *http.Request) (string, string, time.Time){
		"another secret": func(*http.Request) (string, string, time.Time) { return content, "other", now },
		"no secret at all": func(r *http.Request) (string, string, time.Time) {
			Sign(r, []byte(content), "", now)
			return content, "", now
		},
		"other content": func(*http.Request) (string, string, time.Time) { return `{"id":"gate"}`, "secret", now },
		"long ago": func(*http.Request) (string, string, time.Time) {
			return content, "secret", now.Add(Lasts + time.Second)
		},
		"in times to come": func(*http.Request) (string, string, time.Time) {
			return content, "secret", now.Add(-Lasts - time.Second)
		},
		"another way": func(r *http.Request) (string, string, time.Time) {
			r.Method = http.MethodPut
			return content, "secret", now
		},
		"another project": func(r *http.Request) (string, string, time.Time) {
			r.URL.Path, r.URL.RawPath = "/api/projects/b/notices", ""
			return content, "secret", now
		},
		"a digest of another": func(r *http.Request) (string, string, time.Time) {
			r.Header.Set("Content-Digest", digest([]byte("x")))
			return "x", "secret", now
		},
		"later than it says": func(r *http.Request) (string, string, time.Time) {
			replace(r, "Signature-Input", "1618884473", "1618884474")
			return content, "secret", now
		},
		"less than is covered": func(r *http.Request) (string, string, time.Time) {
			replace(r, "Signature-Input", ` "content-digest"`, "")
			return content, "secret", now
		},
		"no signature": func(r *http.Request) (string, string, time.Time) {
			r.Header.Del("Signature")
			return content, "secret", now
		},
		"half of one": func(r *http.Request) (string, string, time.Time) {
			r.Header.Set("Signature", "notice=:AAAA:")
			return content, "secret", now
		},
	} {
		r := signed(content)
		text, secret, at := change(r)
		assert.ErrorIs(t, Verify(r, []byte(text), secret, at), ErrUnsigned, name)
	}
}

func replace(r *http.Request, field, old, now string) {
	r.Header.Set(field, strings.Replace(r.Header.Get(field), old, now, 1))
}
