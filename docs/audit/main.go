// Command audit checks an export of the ledger without Olive Ledger: go run ./docs/audit KEY < ledger.ndjson
package main

import (
	"bufio"
	"crypto/ed25519"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"os"
	"strings"
)

type row struct {
	ID                 uint64
	Previous, Checksum string
}

type head struct {
	Rows                         uint64
	Checksum, At, Key, Signature string
}

func main() {
	key, sums, faults, signed := os.Args[1], []string{""}, 0, uint64(0)
	fault := func(format string, args ...any) { faults++; fmt.Printf(format+"\n", args...) }
	lines := bufio.NewReader(os.Stdin)
	for text, err := lines.ReadString('\n'); err == nil; text, err = lines.ReadString('\n') {
		var line struct {
			Row  *row
			Head *head
		}
		if err := json.Unmarshal([]byte(text), &line); err != nil {
			fault("a line cannot be read: %v", err)
		} else if r := line.Row; r != nil {
			raw := strings.TrimSuffix(strings.TrimPrefix(text, `{"row":`), "}\n")
			sum := sha256.Sum256([]byte(strings.Replace(raw, `"checksum":"`+r.Checksum+`"`, `"checksum":""`, 1)))
			if hex.EncodeToString(sum[:]) != r.Checksum || r.Previous != sums[len(sums)-1] || r.ID != uint64(len(sums)) {
				fault("row %d does not fit its checksum or the row before it", r.ID)
			}
			sums = append(sums, r.Checksum)
		} else if h := line.Head; h != nil {
			public, _ := base64.StdEncoding.DecodeString(h.Key)
			signature, _ := base64.StdEncoding.DecodeString(h.Signature)
			said := fmt.Sprintf("olive-ledger head\n%d\n%s\n%s\n", h.Rows, h.Checksum, h.At)
			if h.Key != key || len(public) != ed25519.PublicKeySize || !ed25519.Verify(public, []byte(said), signature) || h.Rows >= uint64(len(sums)) || sums[h.Rows] != h.Checksum {
				fault("the head over %d rows, signed %s, does not fit", h.Rows, h.At)
			}
			signed = max(signed, h.Rows)
		}
	}
	fmt.Printf("%d rows, the first %d signed, %d faults\n", len(sums)-1, signed, faults)
	if faults > 0 {
		os.Exit(1)
	}
}
