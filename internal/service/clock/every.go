package clock

import (
	"context"
	"log/slog"
	"time"
)

// Every does something at once, and again after each pause, until ctx ends. A failure that stays is told once.
func Every(ctx context.Context, pause time.Duration, log *slog.Logger, failure string, do func() error) {
	tick := time.NewTicker(pause)
	defer tick.Stop()
	told := ""
	for {
		err := do()
		if err == nil {
			told = ""
		} else if err.Error() != told && ctx.Err() == nil {
			told = err.Error()
			log.Warn(failure, "error", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
	}
}
