package server

import (
	"bytes"
	"io"
	"mime"
	"net/http"
	"strings"
	"unicode/utf8"

	"github.com/gin-gonic/gin"
)

// maxJSON is how much of a JSON body is looked at: no operation takes more.
const maxJSON = 8 << 20

// sound lets nothing pass that no text is: what is not UTF-8, and NUL, which the database does not hold. A body that broke
// off is its sender's affair.
func sound(c *gin.Context) {
	query := c.Request.URL.Query()
	ok := keepable(c.Request.URL.Path)
	for name, values := range query {
		ok = ok && keepable(name)
		for _, v := range values {
			ok = ok && keepable(v)
		}
	}
	kind, _, _ := mime.ParseMediaType(c.GetHeader("Content-Type"))
	if c.Request.Body != nil && strings.HasSuffix(kind, "json") {
		text, err := io.ReadAll(io.LimitReader(c.Request.Body, maxJSON+1))
		if err != nil {
			answerTrouble(c, http.StatusBadRequest, "The request broke off.")
			return
		}
		ok = ok && (len(text) > maxJSON || keepable(string(text)) && !saysNUL(text))
		c.Request.Body = readCloser{io.MultiReader(bytes.NewReader(text), c.Request.Body), c.Request.Body}
	}
	if !ok {
		answerTrouble(c, http.StatusUnprocessableEntity, "What was sent holds characters that cannot be kept: NUL, or what is not UTF-8.")
	}
}

type readCloser struct {
	io.Reader
	io.Closer
}

func keepable(text string) bool { return utf8.ValidString(text) && !strings.Contains(text, "\x00") }

// saysNUL tells whether a JSON text escapes a NUL (RFC 8259, 7): a backslash that is not itself escaped, and u0000.
func saysNUL(text []byte) bool {
	for rest := text; ; {
		at := bytes.Index(rest, []byte(`\u0000`))
		if at < 0 {
			return false
		}
		before := 0
		for before < at && rest[at-1-before] == '\\' {
			before++
		}
		if before%2 == 0 {
			return true
		}
		rest = rest[at+6:]
	}
}

// answerTrouble ends a request with what is wrong with it.
func answerTrouble(c *gin.Context, status int, message string) {
	c.AbortWithStatusJSON(status, Trouble{Status: status, Message: message})
}

// noSuchMethod answers what an address does not do; Allow says what it does.
func noSuchMethod(c *gin.Context) {
	answerTrouble(c, http.StatusMethodNotAllowed, "This address does not do that.")
}

// answersTo lets requests pass that name one of the server's own origins, so that no other name can be pointed here.
func answersTo(origins []string) gin.HandlerFunc {
	return func(c *gin.Context) {
		for _, origin := range origins {
			if _, host, _ := strings.Cut(origin, "://"); host == c.Request.Host {
				return
			}
		}
		answerTrouble(c, http.StatusMisdirectedRequest, "This server answers to "+origins[0]+" only.")
	}
}
