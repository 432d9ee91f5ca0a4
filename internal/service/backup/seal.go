package backup

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"os"

	"filippo.io/age"
)

// sealedBegins is how a file begins that is sealed (age-encryption.org/v1).
const sealedBegins = "age-encryption.org/"

// Seal encrypts what is written for those who know a passphrase; who does not can neither read nor change it. Close
// ends it.
func Seal(to io.Writer, passphrase string) (io.WriteCloser, error) {
	r, err := age.NewScryptRecipient(passphrase)
	if err != nil {
		return nil, err
	}
	return age.Encrypt(to, r)
}

// Open gives a back-up as it was before it was sealed, and its size in bytes. A sealed one is unpacked into a file that only
// we can read, which close removes.
func Open(f *os.File, passphrase string) (back io.ReaderAt, size int64, close func(), err error) {
	begins := make([]byte, len(sealedBegins))
	if n, _ := f.ReadAt(begins, 0); !bytes.Equal(begins[:n], []byte(sealedBegins)) {
		st, err := f.Stat()
		if err != nil {
			return nil, 0, nil, err
		}
		return f, st.Size(), func() {}, nil
	}
	if passphrase == "" {
		return nil, 0, nil, errors.New("the back-up is sealed; name the file with its passphrase: --passphrase-file FILE")
	}
	id, err := age.NewScryptIdentity(passphrase)
	if err != nil {
		return nil, 0, nil, err
	}
	in, err := age.Decrypt(f, id)
	if err != nil {
		return nil, 0, nil, fmt.Errorf("the passphrase does not open the back-up, or the back-up is damaged: %w", err)
	}
	tmp, err := os.CreateTemp("", "olive-restore-") // 0600
	if err != nil {
		return nil, 0, nil, err
	}
	close = func() { tmp.Close(); os.Remove(tmp.Name()) }
	if size, err = io.Copy(tmp, in); err != nil {
		close()
		return nil, 0, nil, fmt.Errorf("the sealed back-up is damaged: %w", err)
	}
	return tmp, size, close, nil
}
