// Command olive sets HTML, CSS and records as paginated PDF files.
package main

import (
	"os"

	"oliveledger/internal/cli"
	"oliveledger/internal/collect"
)

func main() {
	collect.BySize()
	os.Exit(cli.Run(os.Args[1:], os.Stdout, os.Stderr))
}
