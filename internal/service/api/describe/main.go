// Command describe writes the OpenAPI description of the service's API to standard output. The console's types
// are made of it.
package main

import (
	"encoding/json"
	"log"
	"os"

	"oliveledger/internal/service/api"
)

func main() {
	e := json.NewEncoder(os.Stdout)
	e.SetIndent("", "  ")
	if err := e.Encode((&api.API{}).Describe()); err != nil {
		log.Fatal(err)
	}
}
