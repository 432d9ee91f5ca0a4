// Command olive sets HTML, CSS and records as paginated PDF files.
package main

import (
	"oliveledger/internal/cli"
	"oliveledger/internal/collect"
	"oliveledger/internal/press"
	"os"
)

func main() {
	press.Child()
	collect.BySize(collect.Alone)
	os.Exit(cli.Run(os.Args[1:], os.Stdout, os.Stderr))
}
