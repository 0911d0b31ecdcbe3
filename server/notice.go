package server

import (
	"errors"
	"io"
	"net/http"
	"net/url"
	"time"

	"github.com/gin-gonic/gin"

	"cobrik/notice"
	"cobrik/service"
)

// longestNotice bounds what is read of a notice, bytes. Nothing in it counts: who sends one is asked.
const longestNotice = 64 << 10

// noticed takes the notice of a design host that it moved: whoever has the secret says so, and the host is asked. 204 before it has answered.
func noticed(c *gin.Context, s *service.Service, secret string) {
	content, err := io.ReadAll(http.MaxBytesReader(c.Writer, c.Request.Body, longestNotice))
	var long *http.MaxBytesError
	switch {
	case errors.As(err, &long):
		answerTrouble(c, http.StatusRequestEntityTooLarge, "A notice is 64 KB long at most.")
		return
	case err != nil:
		answerTrouble(c, http.StatusBadRequest, "The request broke off.")
		return
	}
	signed := c.Request.Clone(c.Request.Context())
	if signed.URL, err = url.ParseRequestURI(c.Request.RequestURI); err != nil { // as it was sent: the path that is signed begins with the project's
		answerTrouble(c, http.StatusBadRequest, "The address cannot be read.")
		return
	}
	if err := notice.Verify(signed, content, secret, time.Now()); err != nil {
		answerTrouble(c, http.StatusUnauthorized, "Not taken: "+err.Error()+".")
		return
	}
	if err := s.Noticed(c.Request.Context()); err != nil {
		fail(c, err)
		return
	}
	c.Status(http.StatusNoContent)
}
