module cobrik

go 1.26.0

require (
	github.com/chromedp/chromedp v0.23.0
	github.com/evanw/esbuild v0.28.2
	github.com/go-json-experiment/json v1.27.2
	github.com/santhosh-tekuri/jsonschema/v6 v6.0.3
	github.com/stretchr/testify v1.12.1
	golang.org/x/image v0.47.0
	golang.org/x/text v0.43.0
)

require (
	github.com/chromedp/cdproto v0.159.0 // indirect
	go.yaml.in/yaml/v3 v3.0.5 // indirect
	golang.org/x/sys v0.49.0 // indirect
)
