package service_test

import (
	"context"
	"encoding/json"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/service"
	"oliveledger/internal/service/deliver"
	"oliveledger/internal/servicetest"
	"oliveledger/internal/standin"
)

func TestDeliveries(t *testing.T) {
	dir := t.TempDir()
	mails := &standin.Mail{Folder: filepath.Join(dir, "mails"), Refuse: func(to string) string {
		if strings.Contains(to, "nobody") {
			return "550 there is no such person"
		}
		return ""
	}}
	smtp, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer smtp.Close()
	go mails.Serve(smtp)
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "s3", "harbour"), 0o755))
	s3 := httptest.NewServer(&standin.Bucket{Folder: filepath.Join(dir, "s3")})
	defer s3.Close()
	var posts atomic.Int32
	var got deliver.Message
	hook := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		body, err := io.ReadAll(r.Body)
		assert.NoError(t, err)
		if r.Method == http.MethodPut {
			assert.NoError(t, os.WriteFile(filepath.Join(dir, filepath.Base(r.URL.Path)), body, 0o600))
			return
		}
		if posts.Add(1) == 1 {
			http.Error(w, "not now", http.StatusServiceUnavailable)
			return
		}
		assert.Equal(t, deliver.Sign("a secret", r.Header.Get("webhook-id"), r.Header.Get("webhook-timestamp"), body), r.Header.Get("webhook-signature"))
		assert.NoError(t, json.Unmarshal(body, &got))
	}))
	defer hook.Close()
	bucket := func(prefix string) string {
		return "s3+http://key:secret@" + strings.TrimPrefix(s3.URL, "http://") + "/harbour/" + prefix
	}
	s := servicetest.Start(t, t.TempDir(), func(c *service.Config) {
		c.Mail, c.MailFrom = "smtp+plain://"+smtp.Addr().String(), "Harbour office <office@harbour.example>"
		c.DeliverHosts, c.WebhookSecret = []string{strings.TrimPrefix(hook.URL, "http://")}, "a secret"
		c.DeliverFolder = filepath.Join(dir, "out")
		c.DeliverBucket = bucket("sent")
		c.Bucket = bucket("kept")
	})
	ctx := context.Background()
	_, err = s.Client.Push(ctx, "card", "", template)
	require.NoError(t, err)
	made, err := s.Client.Issue(ctx, client.Order{Template: "card", Record: json.RawMessage(`{"name":"Zoë","price":2,"mail":"zoe@boats.example"}`)}, "")
	require.NoError(t, err)
	id := made[0].ID
	pdf, err := s.Client.PDF(ctx, id)
	require.NoError(t, err, "blobs are in the bucket")

	up, err := s.Client.Setup(ctx)
	require.NoError(t, err)
	assert.Equal(t, []string{"folder", "mail", "s3", "webdav", "webhook"}, up.Ways)
	arrived := func(o client.DeliveryOrder) client.Delivery {
		t.Helper()
		o.Document = id
		d, err := s.Client.Deliver(ctx, o, "")
		require.NoError(t, err)
		until(t, "the delivery", func() bool {
			d, err = s.Client.Delivery(ctx, d.ID)
			require.NoError(t, err)
			return d.State == "done" || d.State == "failed"
		})
		return d
	}
	d := arrived(client.DeliveryOrder{Kind: "mail", To: "{{.mail}}", Subject: "For {{.name}}", Body: "Dear {{.name}}"})
	assert.Equal(t, "done", d.State)
	assert.Equal(t, "zoe@boats.example", d.To)
	text, err := os.ReadFile(filepath.Join(dir, "mails", "mail-0001.eml"))
	require.NoError(t, err)
	assert.Contains(t, string(text), "Subject: =?UTF-8?q?For_Zo=C3=AB?=")
	assert.Contains(t, string(text), "application/pdf")
	doc, err := s.Client.Document(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, "sent", doc.State)

	d = arrived(client.DeliveryOrder{Kind: "folder", To: "2026"})
	assert.Equal(t, "done", d.State)
	file, err := os.ReadFile(filepath.Join(dir, "out", "2026", "Zoë.pdf"))
	require.NoError(t, err)
	assert.Equal(t, pdf, file)
	assert.Equal(t, "done", arrived(client.DeliveryOrder{Kind: "s3", To: "a"}).State)
	assert.FileExists(t, filepath.Join(dir, "s3", "harbour", "sent", "a", "Zoë.pdf"))
	assert.Equal(t, "done", arrived(client.DeliveryOrder{Kind: "webdav", To: hook.URL + "/dav/x.pdf"}).State)
	assert.FileExists(t, filepath.Join(dir, "x.pdf"))

	d = arrived(client.DeliveryOrder{Kind: "webhook", To: hook.URL})
	assert.Equal(t, "done", d.State)
	require.Len(t, d.History, 2, "the first try was refused for now")
	assert.Contains(t, d.History[0].Error, "not now")
	assert.Equal(t, pdf, got.Data.PDF)

	for why, o := range map[string]client.DeliveryOrder{
		"nothing may be sent": {Kind: "webhook", To: "http://169.254.169.254/"},
		"not an address":      {Kind: "webdav", To: "file:///etc"},
		"not a path inside":   {Kind: "folder", To: "../up"},
		"not a mail address":  {Kind: "mail", To: "x"},
		"not known":           {Kind: "pigeon"},
		"“Nobody” or":         {Kind: "mail", To: "a@b.example", Subject: "{{.nobody}}"},
	} {
		o.Document = id
		_, err := s.Client.Deliver(ctx, o, "")
		assert.Equal(t, 422, status(t, err))
		if !strings.Contains(why, "Nobody") {
			assert.ErrorContains(t, err, why)
		}
	}
	list, err := s.Client.Deliveries(ctx, client.Find{Filter: map[string]string{"state": "done"}})
	require.NoError(t, err)
	assert.Equal(t, 5, list.Total)
}
