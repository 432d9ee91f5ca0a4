// Package deliver brings documents to people and programs: by mail, to a
// webhook, into a folder, to a WebDAV server or into a bucket. Each try is kept.
package deliver

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"oliveledger/internal/service/blob"
	"oliveledger/internal/service/store"
)

// Ways are the means of delivery that are set up; those that are not refuse.
type Ways struct {
	Mail   *Mail
	Hosts  []string // that webhooks and WebDAV may go to
	Secret string   // that webhooks are signed with
	Folder string   // that documents may be put in
	Bucket *blob.Bucket
}

// Kinds of delivery.
const (
	ByMail    = "mail"
	ByWebhook = store.Webhook
	ToFolder  = "folder"
	ToWebDAV  = "webdav"
	ToS3      = "s3"
)

// Kinds are the kinds of delivery that are set up.
func (w *Ways) Kinds() []string {
	out := []string{}
	for kind, on := range map[string]bool{ByMail: w.Mail != nil, ByWebhook: len(w.Hosts) > 0, ToWebDAV: len(w.Hosts) > 0, ToFolder: w.Folder != "", ToS3: w.Bucket != nil} {
		if on {
			out = append(out, kind)
		}
	}
	slices.Sort(out)
	return out
}

// Parcel is what is delivered.
type Parcel struct {
	Document store.Document
	PDF      []byte
	Delivery store.Delivery
}

// final is a failure that another try does not mend.
type final struct{ error }

// Check tells why a delivery cannot be made, before it is kept.
func (w *Ways) Check(d *store.Delivery) error {
	switch d.Kind {
	case ByMail:
		if w.Mail == nil {
			return errors.New("no mail server is set up; start the service with --mail")
		}
		return w.Mail.Check(d.To)
	case ByWebhook, ToWebDAV:
		return w.checkAddress(d.To)
	case ToFolder:
		if w.Folder == "" {
			return errors.New("no folder for deliveries is set up; start the service with --deliver-folder")
		}
		if d.To != "" && !filepath.IsLocal(d.To) {
			return fmt.Errorf("%q is not a path inside the folder for deliveries", d.To)
		}
	case ToS3:
		if w.Bucket == nil {
			return errors.New("no bucket for deliveries is set up; start the service with --deliver-bucket")
		}
	default:
		return fmt.Errorf("a delivery of the kind %q is not known; there are mail, webhook, folder, webdav and s3", d.Kind)
	}
	return nil
}

func (w *Ways) checkAddress(to string) error {
	u, err := url.Parse(to)
	if err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" {
		return fmt.Errorf("%q is not an address that begins with https:// or http://", to)
	}
	if !slices.Contains(w.Hosts, u.Host) && !slices.Contains(w.Hosts, u.Hostname()) {
		return fmt.Errorf("nothing may be sent to the host %s; start the service with --deliver-host %s to allow it", u.Host, u.Host)
	}
	return nil
}

// Send makes one try.
func (w *Ways) Send(ctx context.Context, p Parcel) error {
	if err := w.Check(&p.Delivery); err != nil {
		return final{err}
	}
	switch p.Delivery.Kind {
	case ByMail:
		return w.Mail.send(ctx, p)
	case ByWebhook:
		return w.post(ctx, p)
	case ToWebDAV:
		return w.put(ctx, p)
	case ToFolder:
		return w.file(p)
	}
	return w.Bucket.Name(ctx, strings.TrimPrefix(filepath.ToSlash(filepath.Join("/", p.Delivery.To, p.Document.Name)), "/"), "application/pdf", p.PDF)
}

// file writes beside the place and moves the file there; nothing leaves the
// folder, also through links.
func (w *Ways) file(p Parcel) error {
	root, err := os.OpenRoot(w.Folder)
	if err != nil {
		return err
	}
	defer root.Close()
	dir := p.Delivery.To
	if dir == "" {
		dir = "."
	}
	if err := root.MkdirAll(dir, 0o755); err != nil {
		return err
	}
	part := filepath.Join(dir, fmt.Sprintf(".%d.part", p.Delivery.ID))
	if err := root.WriteFile(part, p.PDF, 0o644); err != nil {
		return err
	}
	defer func() { _ = root.Remove(part) }() // it is not there any more when all went well
	return place(root, part, filepath.Join(dir, p.Document.Name), p.PDF)
}

// maxSameName bounds how many files of one name, with other contents, a folder takes.
const maxSameName = 1000

// place gives a file its name. One of that name stays as it is: another gets a number, and the same is there already.
func place(root *os.Root, part, name string, data []byte) error {
	ending := filepath.Ext(name)
	for n := 1; n <= maxSameName; n++ {
		to := name
		if n > 1 {
			to = fmt.Sprintf("%s (%d)%s", strings.TrimSuffix(name, ending), n, ending)
		}
		err := root.Link(part, to)
		if !errors.Is(err, fs.ErrExist) {
			return err
		}
		if there, err := root.ReadFile(to); err == nil && bytes.Equal(there, data) {
			return nil
		}
	}
	return final{fmt.Errorf("there are %d files called %s already", maxSameName, name)}
}

// Porter makes the deliveries whose turn it is.
type Porter struct {
	Store *store.Store
	Blobs blob.Store
	Ways  *Ways
	Log   *slog.Logger
}

const (
	lease    = 5 * time.Minute
	maxTries = 8
)

// Run works until ctx ends.
func (p *Porter) Run(ctx context.Context) {
	for ctx.Err() == nil {
		d, err := p.Store.ClaimDelivery(lease)
		if err != nil && ctx.Err() == nil {
			p.Log.Warn("no delivery could be claimed", "error", err)
		}
		if d != nil {
			p.one(context.WithoutCancel(ctx), d)
			continue
		}
		select {
		case <-ctx.Done():
		case <-time.After(400 * time.Millisecond):
		}
	}
}

func (p *Porter) one(ctx context.Context, d *store.Delivery) {
	ctx, cancel := context.WithTimeout(ctx, time.Minute)
	defer cancel()
	start := time.Now()
	failure, pause := "", store.Never
	if err := p.send(ctx, d); err != nil {
		failure = err.Error()
		if _, stop := errors.AsType[final](err); !stop && d.Tries < maxTries {
			pause = 2 * time.Second << min(2*(d.Tries-1), 11)
		}
	}
	if err := p.Store.EndDelivery(d, time.Since(start), failure, pause); err != nil {
		p.Log.Error("a delivery could not be kept", "delivery", d.ID, "error", err)
	}
}

func (p *Porter) send(ctx context.Context, d *store.Delivery) error {
	if d.Event != "" {
		return p.tell(ctx, d)
	}
	doc, err := p.Store.Document(d.DocumentID)
	if err != nil {
		return err
	}
	if doc.State == store.Void {
		return final{fmt.Errorf("document %d is void", doc.ID)}
	}
	if doc.ErasedAt != nil {
		return final{fmt.Errorf("document %d was erased", doc.ID)}
	}
	pdf, err := p.Blobs.Get(ctx, doc.SHA256)
	if err != nil {
		return err
	}
	return p.Ways.Send(ctx, Parcel{doc, pdf, *d})
}
