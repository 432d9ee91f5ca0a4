// Package standin holds small servers in place of those that deliveries and
// blobs go to, for the demo and for tests.
package standin

import (
	"bufio"
	"fmt"
	"net"
	"os"
	"path/filepath"
	"strings"
	"sync/atomic"
	"time"
)

// Mail takes mails and keeps them in files.
type Mail struct {
	Folder string
	// Refuse answers a mail to an address with an error, when it is not empty.
	Refuse func(to string) string
	count  atomic.Int64
}

// Serve answers connections until the listener is closed (RFC 5321).
func (m *Mail) Serve(l net.Listener) error {
	if err := os.MkdirAll(m.Folder, 0o755); err != nil {
		return err
	}
	for {
		c, err := l.Accept()
		if err != nil {
			return err
		}
		go m.talk(c)
	}
}

func (m *Mail) talk(c net.Conn) {
	defer c.Close()
	_ = c.SetDeadline(time.Now().Add(5 * time.Minute))
	in := bufio.NewReader(c)
	say := func(format string, args ...any) { fmt.Fprintf(c, format+"\r\n", args...) }
	say("220 stand-in ready")
	refusal := ""
	for {
		line, err := in.ReadString('\n')
		if err != nil {
			return
		}
		verb, rest, _ := strings.Cut(strings.TrimSpace(line), " ")
		switch strings.ToUpper(verb) {
		case "EHLO":
			say("250-stand-in\r\n250-8BITMIME\r\n250-AUTH PLAIN LOGIN\r\n250 SIZE 52428800")
		case "HELO", "RSET", "NOOP":
			refusal = ""
			say("250 fine")
		case "AUTH":
			say("235 come in")
		case "MAIL":
			refusal = ""
			say("250 fine")
		case "RCPT":
			if m.Refuse != nil && refusal == "" {
				refusal = m.Refuse(rest)
			}
			if refusal != "" {
				say("%s", refusal)
				continue
			}
			say("250 fine")
		case "DATA":
			say("354 go on")
			text, err := message(in)
			if err == nil {
				err = m.keep(text)
			}
			if err != nil {
				say("451 the mail could not be kept")
				return
			}
			say("250 kept")
		case "QUIT":
			say("221 good bye")
			return
		default:
			say("502 %s is not known here", verb)
		}
	}
}

// message reads a mail up to the line with a single dot.
func message(in *bufio.Reader) (string, error) {
	var b strings.Builder
	for {
		line, err := in.ReadString('\n')
		if err != nil {
			return "", err
		}
		if line == ".\r\n" || line == ".\n" {
			return b.String(), nil
		}
		b.WriteString(strings.TrimPrefix(line, "."))
	}
}

func (m *Mail) keep(text string) error {
	return os.WriteFile(filepath.Join(m.Folder, fmt.Sprintf("mail-%04d.eml", m.count.Add(1))), []byte(text), 0o644)
}
