package batch

import (
	"database/sql"
	"database/sql/driver"
	"errors"
	"fmt"
	"io"
	"net"
	"testing"

	"github.com/go-sql-driver/mysql"
	"github.com/stretchr/testify/assert"

	"oliveledger/internal/press"
	"oliveledger/internal/service/issue"
)

// TestWhatMayPass tells errors of the machines, which another try may not meet, from those of the document.
func TestWhatMayPass(t *testing.T) {
	for _, err := range []error{
		&mysql.MySQLError{Number: 1213}, mysql.ErrInvalidConn, driver.ErrBadConn, sql.ErrConnDone, sql.ErrTxDone, io.ErrUnexpectedEOF,
		&net.OpError{Op: "dial", Err: errors.New("refused")}, &issue.Unkept{}, errors.Join(errors.New("a"), &net.DNSError{}),
	} {
		assert.True(t, passing(fmt.Errorf("while something was done: %w", err)), "%T", err)
	}
	for _, err := range []error{errors.New(`the record has no field "name"`), &press.Ended{}} {
		assert.False(t, passing(fmt.Errorf("while something was done: %w", err)), "%T", err)
	}
}
