module cobrik

go 1.26.0

require (
	github.com/chromedp/cdproto v0.159.0
	github.com/chromedp/chromedp v0.23.0
	github.com/go-json-experiment/json v1.27.2
	github.com/santhosh-tekuri/jsonschema/v6 v6.0.3
	github.com/stretchr/testify v1.12.1
	golang.org/x/image v0.47.0
	golang.org/x/text v0.43.0
)

require go.yaml.in/yaml/v3 v3.0.5 // indirect
