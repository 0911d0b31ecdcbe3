package contract

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"

	"cobrik/core/problem"
)

// ImageKind is the kind of a prop that is a picture.
const ImageKind Kind = "image"

// Image is a picture at an address, with what it shows in words and its size, so that a page
// keeps its room. It has no default.
type Image struct {
	Aspect float64 `json:"aspect,omitempty"` // width by height its pictures should have; 0 for any
}

func readImage(text json.RawMessage) (Type, error) {
	var i Image
	return i, json.Unmarshal(text, &i)
}

func (Image) Kind() Kind      { return ImageKind }
func (Image) Control() string { return "image" }
func (Image) Default() Value  { return nil }

func (Image) Takes(v Value) bool {
	i, ok := v.(ImageValue)
	return ok && i.flaw() == nil
}

// flaw says what is wrong with an image's value; nil for nothing.
func (v ImageValue) flaw() error {
	if v.Source == "" {
		return fmt.Errorf("an image has an address: src")
	}
	if !(v.Width > 0 && v.Height > 0 && max(v.Width, v.Height) <= 100_000) {
		return fmt.Errorf("an image has a width and a height, px, so that the page keeps its room")
	}
	return checkSource(v.Source)
}

func (Image) Decode(text json.RawMessage) (Value, error) {
	var v ImageValue
	d := json.NewDecoder(bytes.NewReader(text))
	d.DisallowUnknownFields()
	if err := d.Decode(&v); err != nil {
		return nil, fmt.Errorf("it is no image: expected src, alt, width and height")
	}
	return v, v.flaw()
}

func (Image) Nameable() []Value { return nil }

// Samples are none, and a picture of the wanted shape, of twice its width and of twice its
// height: plain grey, for they show what becomes of the room.
func (i Image) Samples() []Value {
	aspect := i.Aspect
	if aspect == 0 {
		aspect = 1
	}
	out := []Value{nil}
	for _, a := range []float64{aspect, aspect * 2, aspect / 2} {
		out = append(out, SampleImage(a))
	}
	return out
}

// SampleImage is a plain picture of a shape: width by height.
func SampleImage(aspect float64) ImageValue {
	w, h := 240.0, math.Max(1, math.Round(240/aspect))
	return ImageValue{Alt: "A sample picture", Width: w, Height: h,
		Source: fmt.Sprintf("data:image/svg+xml,%%3Csvg xmlns='http://www.w3.org/2000/svg' width='%g' height='%g'%%3E%%3Crect width='100%%25' height='100%%25' fill='%%23999'/%%3E%%3C/svg%%3E", w, h)}
}

func (i Image) Changes(name string, older Type) []Change {
	if old := older.(Image); i.Aspect != old.Aspect {
		return []Change{change(Patch, "%s: its pictures should have another shape", name)}
	}
	return nil
}

func (Image) TypeScript() string {
	return "{ src: string; alt: string; width: number; height: number }"
}

func (Image) Schema() map[string]any {
	text, size := map[string]any{"type": "string"}, map[string]any{"type": "number", "exclusiveMinimum": 0}
	return map[string]any{"type": "object", "required": []string{"src", "alt", "width", "height"}, "additionalProperties": false,
		"properties": map[string]any{"src": text, "alt": text, "width": size, "height": size}}
}

func (Image) check(string, string, *problem.List) {}

func (i Image) withDefault(Value) Type { return i }
func (i Image) clone() Type            { return i }
