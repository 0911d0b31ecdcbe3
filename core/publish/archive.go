package publish

import (
	"archive/tar"
	"archive/zip"
	"bytes"
	"compress/gzip"

	"cobrik/core/emit"
)

// Zip packs files into an archive with one folder. The same files give the same bytes.
func Zip(folder string, files []emit.File) ([]byte, error) {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, f := range files {
		w, err := z.Create(folder + "/" + f.Path) // of no time
		if err != nil {
			return nil, err
		}
		if _, err := w.Write([]byte(f.Content)); err != nil {
			return nil, err
		}
	}
	if err := z.Close(); err != nil { // writes the directory
		return nil, err
	}
	return b.Bytes(), nil
}

// Tarball packs files as npm installs them: a gzip of a tar whose one folder is called package. The same files give the
// same bytes.
func Tarball(files []emit.File) ([]byte, error) {
	var b bytes.Buffer
	g := gzip.NewWriter(&b) // its header has no time and no name
	t := tar.NewWriter(g)
	for _, f := range files {
		if err := t.WriteHeader(&tar.Header{Name: "package/" + f.Path, Mode: 0o644, Size: int64(len(f.Content)), Format: tar.FormatPAX}); err != nil {
			return nil, err
		}
		if _, err := t.Write([]byte(f.Content)); err != nil {
			return nil, err
		}
	}
	if err := t.Close(); err != nil {
		return nil, err
	}
	if err := g.Close(); err != nil {
		return nil, err
	}
	return b.Bytes(), nil
}
