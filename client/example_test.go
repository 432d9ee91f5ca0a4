package client_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log"
	"net/http"
	"os"

	"oliveledger/client"
)

// A template is published, and an invoice made of a record: once, however often it is asked for.
func Example() {
	ctx := context.Background()
	c := client.New("http://127.0.0.1:8470", os.Getenv("OLIVE_KEY"))
	if _, err := c.Push(ctx, "invoice", "first", os.DirFS("templates/invoice")); err != nil {
		log.Fatal(err)
	}
	record := json.RawMessage(`{"number": "QL-2026-0046", "customer": {"name": "Maren Oakley"}}`)
	made, err := c.Issue(ctx, client.Order{Template: "invoice", Series: "invoices", Record: record}, "order 46")
	if err != nil {
		log.Fatal(err)
	}
	pdf, err := c.PDF(ctx, made[0].ID)
	if err != nil {
		log.Fatal(err)
	}
	if err := os.WriteFile(made[0].Name, pdf, 0o644); err != nil {
		log.Fatal(err)
	}
}

// What the service refuses says why.
func ExampleProblem() {
	c := client.New("http://127.0.0.1:8470", os.Getenv("OLIVE_KEY"))
	_, err := c.Document(context.Background(), 12)
	var refused *client.Problem
	switch {
	case errors.As(err, &refused) && refused.Status == http.StatusNotFound:
		fmt.Println("there is no document 12")
	case err != nil:
		log.Fatal(err)
	}
}
