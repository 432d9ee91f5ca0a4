package blob

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"strings"
	"time"

	"github.com/minio/minio-go/v7"
	"github.com/minio/minio-go/v7/pkg/credentials"
)

// Bucket keeps blobs in a bucket through the S3 protocol, so that services and
// workers on several machines share them.
type Bucket struct {
	client *minio.Client
	name   string
	prefix string
}

// OpenBucket reads an address such as s3://key:secret@host:9000/bucket/prefix;
// s3+http goes without TLS.
func OpenBucket(ctx context.Context, address string) (*Bucket, error) {
	u, err := url.Parse(address)
	if err != nil || u.Host == "" || u.User == nil || u.Scheme != "s3" && u.Scheme != "s3+http" {
		return nil, errors.New("the address of a bucket is s3://key:secret@host:port/bucket/prefix; s3+http:// goes without TLS")
	}
	name, prefix, _ := strings.Cut(strings.Trim(u.Path, "/"), "/")
	if name == "" {
		return nil, errors.New("the address of a bucket lacks the bucket's name: s3://key:secret@host:port/bucket")
	}
	secret, _ := u.User.Password()
	c, err := minio.New(u.Host, &minio.Options{Creds: credentials.NewStaticV4(u.User.Username(), secret, ""), Secure: u.Scheme == "s3", BucketLookup: minio.BucketLookupPath})
	if err != nil {
		return nil, err
	}
	there, err := c.BucketExists(ctx, name)
	if err != nil {
		return nil, fmt.Errorf("the store at %s does not answer: %w", u.Host, err)
	}
	if !there {
		return nil, fmt.Errorf("the store at %s has no bucket %q", u.Host, name)
	}
	if prefix != "" {
		prefix += "/"
	}
	return &Bucket{c, name, prefix}, nil
}

// Put sends an object; the protocol shows it whole or not at all.
func (b *Bucket) Put(ctx context.Context, data []byte) (string, error) {
	sum := Sum(data)
	return sum, b.Name(ctx, sum, "application/octet-stream", data)
}

// Name sends an object under a name of its own.
func (b *Bucket) Name(ctx context.Context, name, kind string, data []byte) error {
	_, err := b.client.PutObject(ctx, b.name, b.prefix+name, bytes.NewReader(data), int64(len(data)), minio.PutObjectOptions{ContentType: kind})
	return err
}

// Ready asks whether the bucket is there.
func (b *Bucket) Ready(ctx context.Context) error {
	there, err := b.client.BucketExists(ctx, b.name)
	if err == nil && !there {
		err = fmt.Errorf("there is no bucket %q any more", b.name)
	}
	return err
}

// Get fetches an object.
func (b *Bucket) Get(ctx context.Context, sum string) ([]byte, error) {
	if err := checkName(sum); err != nil {
		return nil, err
	}
	o, err := b.client.GetObject(ctx, b.name, b.prefix+sum, minio.GetObjectOptions{})
	if err != nil {
		return nil, err
	}
	defer o.Close()
	data, err := io.ReadAll(o)
	if minio.ToErrorResponse(err).Code == "NoSuchKey" {
		err = fs.ErrNotExist
	}
	return checked(sum, data, err)
}

// Each visits the objects that blobs are kept in.
func (b *Bucket) Each(ctx context.Context, visit func(Kept) error) error {
	ctx, cancel := context.WithCancel(ctx)
	defer cancel() // ends the listing
	for o := range b.client.ListObjects(ctx, b.name, minio.ListObjectsOptions{Prefix: b.prefix, Recursive: true}) {
		if o.Err != nil {
			return o.Err
		}
		sum := strings.TrimPrefix(o.Key, b.prefix)
		if checkName(sum) != nil {
			continue // something else
		}
		if err := visit(Kept{sum, o.Size, o.LastModified}); err != nil {
			return err
		}
	}
	return nil
}

// Remove removes an object that has not been sent again since before.
func (b *Bucket) Remove(ctx context.Context, sum string, before time.Time) (bool, error) {
	if err := checkName(sum); err != nil {
		return false, err
	}
	o, err := b.client.StatObject(ctx, b.name, b.prefix+sum, minio.StatObjectOptions{})
	if minio.ToErrorResponse(err).Code == minio.NoSuchKey {
		return false, nil
	}
	if err != nil || !o.LastModified.Before(before) {
		return false, err
	}
	err = b.client.RemoveObject(ctx, b.name, b.prefix+sum, minio.RemoveObjectOptions{})
	return err == nil, err
}
