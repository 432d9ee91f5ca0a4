package database

import (
	"context"
	"net"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestNodesThatDoNotAnswer asks each of several addresses, and tells what each said.
func TestNodesThatDoNotAnswer(t *testing.T) {
	n, err := newNodes("olive:secret@tcp(127.0.0.1:1, 127.0.0.1:2)/olive_ledger")
	require.NoError(t, err)
	assert.Equal(t, []string{"127.0.0.1:1", "127.0.0.1:2"}, n.names)
	_, err = n.Connect(context.Background())
	assert.ErrorContains(t, err, "127.0.0.1:1: dial")
	assert.ErrorContains(t, err, "127.0.0.1:2: dial")
	assert.NotContains(t, err.Error(), "secret")
	var network net.Error
	assert.ErrorAs(t, err, &network, "another try may find one")

	n, err = newNodes("olive@tcp(db1,db2:3307)/olive_ledger")
	require.NoError(t, err)
	assert.Equal(t, []string{"db1:3306", "db2:3307"}, n.names)
	_, err = newNodes("nonsense")
	assert.ErrorContains(t, err, "user:password@tcp(host:3306)/name")
}
