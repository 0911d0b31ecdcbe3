package content

import "encoding/json"

func mustJSON(v any) []byte {
	text, err := json.Marshal(v)
	if err != nil {
		panic(err) // plain data
	}
	return text
}
