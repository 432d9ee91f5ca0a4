package press

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/rpc"
	"os"
	"os/exec"
	"regexp"
	"strings"
	"sync"
	"time"
)

// exitedLate is how a child ends that has used up its processor time.
const exitedLate = 24

// oneHeap tells a C library that all threads allocate from one heap (mallopt(3)): what each reserves for its own
// would count as memory.
const oneHeap = "MALLOC_ARENA_MAX=1"

// process is a child, seen from its parent.
type process struct {
	orders
	cmd    *exec.Cmd
	client *rpc.Client
	says   beginning
	spent  bool // it is not to be used again: it has ended, or is in the middle of something
}

// start begins a child in an empty folder.
func start(o orders, folder string) (*process, error) {
	program, err := os.Executable()
	if err != nil {
		return nil, fmt.Errorf("the program's own file cannot be found: %w", err)
	}
	told, err := json.Marshal(o)
	if err != nil {
		return nil, err
	}
	p := &process{orders: o, cmd: exec.Command(program)}
	p.cmd.Args = []string{"olive press"}
	p.cmd.Env = []string{environment + "=" + string(told), "GOTRACEBACK=none", oneHeap} // one line tells why it ended
	p.cmd.Dir, p.cmd.Stderr, p.cmd.SysProcAttr = folder, &p.says, apart()
	in, err := p.cmd.StdinPipe()
	if err != nil {
		return nil, err
	}
	out, err := p.cmd.StdoutPipe()
	if err != nil {
		return nil, err
	}
	if err := p.cmd.Start(); err != nil {
		return nil, fmt.Errorf("a process for documents cannot be started: %w", err)
	}
	widen(in)
	widen(out)
	p.client = rpc.NewClient(pipes{out, in})
	return p, nil
}

// end ends the process and waits until it is gone.
func (p *process) end() {
	_ = p.cmd.Process.Kill() // it may have ended by itself
	p.client.Close()
	_ = p.cmd.Wait() // its state tells why it ended
}

// grace is what a child may take beyond its time to end its work by itself.
const grace = time.Second

// call has a piece of work done. When it takes too long, or ctx ends, the process is killed.
func (p *process) call(ctx context.Context, method string, in, out any) error {
	ctx, cancel := context.WithTimeoutCause(ctx, p.Time+grace, late(p.Time))
	defer cancel()
	stop := context.AfterFunc(ctx, func() { _ = p.cmd.Process.Kill() })
	err := p.client.Call("Desk."+method, in, out)
	killed := !stop()
	p.spent = p.spent || killed
	var told rpc.ServerError
	switch {
	case err == nil: // also when it was killed a moment later
		return nil
	case errors.As(err, &told):
		return errors.New(string(told))
	}
	p.spent = true
	p.end()
	if killed {
		return context.Cause(ctx)
	}
	return p.why()
}

// outOfMemory is what the runtime says when it gets no more memory, for what it allocates or for a thread.
var outOfMemory = regexp.MustCompile(`out of memory|cannot allocate memory|cannot map pages|new OS thread|pthread_create failed`)

// why tells the reason that a process ended for by itself.
func (p *process) why() error {
	said, state := p.says.String(), p.cmd.ProcessState
	switch {
	case outOfMemory.MatchString(said), !state.Exited():
		return &Ended{fmt.Sprintf("the work on it needs more than the %d MB of memory that a document may take (--max-memory)", p.Memory>>20)}
	case state.ExitCode() == exitedLate:
		return late(p.Time)
	}
	first, _, _ := strings.Cut(strings.TrimSpace(said), "\n")
	return &Ended{"the process that worked on it ended: " + first}
}

// beginning of what a process says, which names the reason it ends for.
type beginning struct {
	mu   sync.Mutex
	text []byte
}

// Write keeps the first kilobytes.
func (t *beginning) Write(p []byte) (int, error) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if room := 4096 - len(t.text); room > 0 {
		t.text = append(t.text, p[:min(room, len(p))]...)
	}
	return len(p), nil
}

func (t *beginning) String() string {
	t.mu.Lock()
	defer t.mu.Unlock()
	return string(t.text)
}
