package catalogue

import (
	"bytes"
	"encoding/json"
)

// literal writes a value as JavaScript has it.
func literal(v any) string {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	if err := e.Encode(v); err != nil {
		panic(err) // plain data
	}
	return string(bytes.TrimSpace(b.Bytes()))
}
