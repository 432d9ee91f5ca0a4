// Command olive sets HTML, CSS and records as paginated PDF files.
package main

import (
	"os"

	"oliveledger/internal/cli"
	"oliveledger/internal/collect"
	"oliveledger/internal/press"
)

func main() {
	press.Child()
	collect.BySize(collect.Alone)
	os.Exit(cli.Run(os.Args[1:], os.Stdout, os.Stderr))
}
