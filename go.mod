module oliveledger

go 1.26.0

require (
	github.com/andybalholm/brotli v1.2.8
	github.com/go-fonts/dejavu v0.3.2
	github.com/go-fonts/liberation v0.3.3
	github.com/go-text/typesetting v0.3.5
	github.com/klauspost/compress v1.20.3
	golang.org/x/net v0.62.0
)

require (
	github.com/goccy/go-yaml v1.19.2
	github.com/shopspring/decimal v1.6.0
	github.com/spf13/cobra v1.10.2
	golang.org/x/image v0.23.0
	golang.org/x/term v0.47.0
	golang.org/x/text v0.43.0
)

require (
	github.com/inconshreveable/mousetrap v1.1.0 // indirect
	github.com/spf13/pflag v1.0.9 // indirect
	golang.org/x/sys v0.49.0 // indirect
)
