package clock

import (
	"bytes"
	"context"
	"errors"
	"log/slog"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

func TestEvery(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	var log bytes.Buffer
	said := []string{"", "no room", "no room", "", "no room", "no network"}
	n := 0
	Every(ctx, time.Millisecond, slog.New(slog.NewTextHandler(&log, nil)), "it could not be done", func() error {
		defer func() { n++ }()
		if n == len(said) {
			stop()
			return errors.New("the end")
		}
		if said[n] == "" {
			return nil
		}
		return errors.New(said[n])
	})
	assert.Equal(t, len(said)+1, n)
	assert.Equal(t, 3, strings.Count(log.String(), "it could not be done"), "each once, and again when it had gone: %s", &log)
	assert.NotContains(t, log.String(), "the end", "it was to end")
}
