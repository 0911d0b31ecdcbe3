package story

import (
	"context"
	"slices"

	"cobrik/core/drift"
	"cobrik/service"
)

// weeks are how far all agreed in the weeks before the demo begins: days ago, what had happened, and what moved of which component.
var weeks = []struct {
	ago   int
	why   string
	moved map[string]drift.Stand
}{
	{44, "begun", map[string]drift.Stand{"plot-card": {Code: 9, Design: 4}, "crop-tag": {Code: 6, Several: 2}, "tool-row": {Code: 5}, "seed-offer": {Design: 3}}},
	{39, "PlotCard, CropTag", map[string]drift.Stand{"plot-card": {Code: 4}, "crop-tag": {Code: 2, Several: 1}, "tool-row": {Code: 5}, "seed-offer": {Design: 3}}},
	{33, "ToolRow, SeedOffer", map[string]drift.Stand{"plot-card": {Code: 4, Contract: 2}, "crop-tag": {Code: 2}}},
	{27, "commit 5a7e0c1", map[string]drift.Stand{"plot-card": {Code: 7}, "crop-tag": {Code: 2}, "bed-meter": {Code: 3}}},
	{20, "BedMeter, PlotCard", map[string]drift.Stand{"plot-card": {Contract: 3}, "crop-tag": {Code: 1}}},
	{13, "commit 81f3b60", map[string]drift.Stand{"crop-tag": {Code: 1}}},
	{6, "CropTag", map[string]drift.Stand{}},
}

// Weeks gives the project a past, so that there is something to follow.
func Weeks(ctx context.Context, s *service.Service) error {
	now, err := s.DriftNow(ctx)
	if err != nil {
		return err
	}
	var list []drift.DriftPoint
	for _, w := range weeks {
		p := now
		p.At, p.Why, p.Design, p.Code = now.At.AddDate(0, 0, -w.ago), w.why, "Furrow revision 1, Gate signs revision 1", ""
		p.Components = slices.Clone(p.Components)
		for i, c := range p.Components {
			m := w.moved[c.Slug]
			m.Slug, m.Name, m.Version, m.Facts, m.Released = c.Slug, c.Name, c.Version, c.Facts-w.ago/8, c.Released
			p.Components[i] = m
		}
		list = append(list, p)
	}
	return s.SeedPoints(ctx, list)
}
