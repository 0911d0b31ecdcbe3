// Package formats embeds the JSON Schemas (2020-12) of Cobrik's own formats.
// It holds no code, so that core may read from it.
package formats

import _ "embed"

// DesignDocument is the schema of cobrik.design/1.
//
//go:embed design-1.schema.json
var DesignDocument []byte

// Contract is the schema of cobrik.contract/1.
//
//go:embed contract-1.schema.json
var Contract []byte

// Project is the schema of cobrik.project/1.
//
//go:embed project-1.schema.json
var Project []byte

// Layout is the schema of a layout tree, which commands read and write.
//
//go:embed layout-1.schema.json
var Layout []byte

// Library is the schema of cobrik.library/1, the lock of a released library.
//
//go:embed library-1.schema.json
var Library []byte
