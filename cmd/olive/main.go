// Command olive sets HTML, CSS and records as paginated PDF files.
package main

import (
	"os"

	"oliveledger/internal/cli"
)

func main() {
	collectBySize()
	os.Exit(cli.Run(os.Args[1:], os.Stdout, os.Stderr))
}
