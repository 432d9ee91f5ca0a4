package chaos

import (
	"io"
	"net"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"
)

// wire leads to the database's nodes. While its gate is locked nothing comes through, and nobody is told:
// as with a cable that is cut.
type wire struct{ gate sync.RWMutex }

// lead gives an address of loopback that leads to another one.
func (w *wire) lead(t *testing.T, to string) string {
	in, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { in.Close() })
	go func() {
		for {
			near, err := in.Accept()
			if err != nil {
				return
			}
			go w.join(near, to)
		}
	}()
	return in.Addr().String()
}

// join brings over what either side says, until one of them ends.
func (w *wire) join(near net.Conn, to string) {
	defer near.Close()
	far, err := net.Dial("tcp", to)
	if err != nil {
		return
	}
	defer far.Close()
	var done sync.WaitGroup
	bring := func(to, from net.Conn) {
		_, _ = io.Copy(through{to, w}, from) // an end of either side is the end of both
		to.Close()
		from.Close()
	}
	done.Go(func() { bring(far, near) })
	done.Go(func() { bring(near, far) })
	done.Wait()
}

// through writes when the gate is open.
type through struct {
	to io.Writer
	w  *wire
}

func (t through) Write(p []byte) (int, error) {
	t.w.gate.RLock()
	defer t.w.gate.RUnlock()
	return t.to.Write(p)
}
