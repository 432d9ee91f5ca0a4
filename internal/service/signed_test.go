package service_test

import (
	"context"
	"crypto/x509"
	"encoding/json"
	"fmt"
	"net/http/httptest"
	"path"
	"path/filepath"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/service"
	"oliveledger/internal/servicetest"
	"oliveledger/internal/standin"
	"oliveledger/internal/timestamp"
	"oliveledger/typeset/sign"
)

// signedTemplates ask for a signature: in a place on the page, unseen, or in a place that is not there.
var signedTemplates = map[string]fstest.MapFS{
	"shown":  templateThat("signed: Harbour office", `<div data-signature="Harbour office">for the harbour</div>`),
	"unseen": templateThat("signed: unseen", ""),
	"wrong":  templateThat("signed: Master", `<div data-signature="Harbour office">for the harbour</div>`),
	"plain":  templateThat("", ""),
}

func templateThat(says, page string) fstest.MapFS {
	return fstest.MapFS{
		"page.html":     {Data: []byte(`<html lang="en"><title>A card</title><h1>{{.name}}</h1>` + page)},
		"template.yaml": {Data: []byte("title: A card\nfilename: '{{.name}}.pdf'\n" + says + "\n")},
	}
}

func TestSignedDocuments(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	cert, err := standin.Office(dir, "Harbour office", "gull")
	require.NoError(t, err)
	roots := x509.NewCertPool()
	roots.AddCert(cert)
	authority, err := standin.NewTimestamps(dir)
	require.NoError(t, err)
	front := httptest.NewServer(authority)
	defer front.Close()
	data := t.TempDir()
	s := servicetest.Start(t, data, func(c *service.Config) {
		c.SignWith, c.Passphrase = filepath.Join(dir, standin.OfficeKey), "gull"
		c.Stamps, c.StampRoots, c.SignLasting = front.URL, filepath.Join(dir, standin.RootFile), true
	})
	for name, files := range signedTemplates {
		_, err := s.Client.Push(ctx, name, "", files)
		require.NoError(t, err)
	}
	stampRoots, err := timestamp.Roots(filepath.Join(dir, standin.RootFile))
	require.NoError(t, err)
	trust := sign.Trust{Roots: roots, Stamp: func(token, data []byte) (time.Time, string, error) {
		x, err := timestamp.Read(token, data, stampRoots)
		return x.At, x.By, err
	}}
	signatures := func(d client.Document) []sign.Signature {
		file, err := s.Client.PDF(ctx, d.ID)
		require.NoError(t, err)
		list, err := sign.Signatures(file, "", trust)
		require.NoError(t, err)
		return list
	}
	issue := func(o client.Order) (client.Document, error) {
		o.Record = json.RawMessage(`{"name":"Maren"}`)
		list, err := s.Client.Issue(ctx, o, "")
		if err != nil {
			return client.Document{}, err
		}
		return list[0], nil
	}
	for name, field := range map[string]string{"shown": "Harbour office", "unseen": "Signature 1"} {
		t.Run(name, func(t *testing.T) {
			d, err := issue(client.Order{Template: name})
			require.NoError(t, err)
			list := signatures(d)
			require.Len(t, list, 2, "the signature, and a time stamp over what proves it")
			assert.Equal(t, sign.Archival, list[0].Level)
			assert.True(t, list[1].Holds && list[1].Level == sign.OnlyStamped, "%+v", list[1])
			assert.Equal(t, field, list[0].Field)
			assert.True(t, list[0].Holds && list[0].Trusted, "%+v", list[0])
			assert.Equal(t, "CN=Harbour office", list[0].Signer)
			require.NotNil(t, list[0].Stamp)
			_, page, _ := ask(t, s, "GET", "/verify/"+path.Base(d.Verify), "")
			assert.Contains(t, page, "<dt>Signed by<dd>Harbour office")
			assert.Contains(t, page, "The signature holds.")
			assert.NotContains(t, page, "Stand-in for time stamps", "which has signed nothing")
			status, body, _ := withKey(t, s, "POST", fmt.Sprintf("/api/v1/documents/%d/repetition", d.ID), "")
			assert.Equal(t, 200, status)
			assert.JSONEq(t, `{"same":true}`, body, "the same up to the signature")
		})
	}
	t.Run("a draft is signed when it is issued", func(t *testing.T) {
		d, err := issue(client.Order{Template: "shown", Draft: true})
		require.NoError(t, err)
		assert.Empty(t, signatures(d))
		require.NoError(t, base(t, data).Store.DB().Exec("UPDATE documents SET state = 'approved' WHERE id = ?", d.ID).Error) // by someone else
		d, err = s.Client.SetDocument(ctx, d.ID, d.Revision, "issued", "")
		require.NoError(t, err)
		assert.Len(t, signatures(d), 2)
	})
	t.Run("who asks for none gets none", func(t *testing.T) {
		d, err := issue(client.Order{Template: "plain"})
		require.NoError(t, err)
		assert.Empty(t, signatures(d))
		_, page, _ := ask(t, s, "GET", "/verify/"+path.Base(d.Verify), "")
		assert.Contains(t, page, "This document is genuine")
		assert.NotContains(t, page, "Signed by")
	})
	t.Run("a place that is not there", func(t *testing.T) {
		_, err := issue(client.Order{Template: "wrong"})
		assert.ErrorContains(t, err, `no such signature field as "Master"; there are Harbour office`)
	})
	v, err := s.Client.VerifyLedger(ctx)
	require.NoError(t, err)
	assert.True(t, v.Sound, "%v", v.Faults)
}

// TestNoKeyToSign asks a service for signatures that has no key, or a wrong one.
func TestNoKeyToSign(t *testing.T) {
	ctx := context.Background()
	s := servicetest.Start(t, t.TempDir())
	_, err := s.Client.Push(ctx, "shown", "", signedTemplates["shown"])
	require.NoError(t, err)
	_, err = s.Client.Issue(ctx, client.Order{Template: "shown", Record: json.RawMessage(`{"name":"Maren"}`)}, "")
	assert.ErrorContains(t, err, "--sign-with")
	dir := t.TempDir()
	_, err = standin.Office(dir, "Harbour office", "gull")
	require.NoError(t, err)
	err = service.Run(ctx, service.Config{Listen: "127.0.0.1:0", Data: t.TempDir(), SignWith: filepath.Join(dir, standin.OfficeKey), Passphrase: "tern"})
	assert.ErrorContains(t, err, "the passphrase does not open the key")
}
