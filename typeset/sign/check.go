package sign

import (
	"bytes"
	"crypto/sha256"
	"crypto/x509"
	"encoding/asn1"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/sassoftware/relic/v8/lib/pkcs7"
	"github.com/sassoftware/relic/v8/lib/pkcs9"

	"oliveledger/typeset/internal/pdfread"
)

// Signature is what a file says of one, and whether it holds.
type Signature struct {
	Field  string `json:"field"`
	Signer string `json:"signer"` // the subject of the certificate, and who has signed that
	Issuer string `json:"issuer"`
	Reason string `json:"reason,omitempty"`
	Place  string `json:"place,omitempty"`
	At     string `json:"at,omitempty"` // that the signer claims, RFC 3339

	Holds   bool   `json:"holds"`           // the bytes that it is over are those that were signed
	Fault   string `json:"fault,omitempty"` // why it does not
	Trusted bool   `json:"trusted"`         // its certificate is signed by one that is trusted
	Doubt   string `json:"doubt,omitempty"` // why it is not
	Covers  int    `json:"covers"`          // bytes of the file, from its beginning
	Later   string `json:"later,omitempty"` // what was appended since; empty when nothing was

	Stamp *Stamp `json:"stamp,omitempty"` // of an authority; nil for none

	// Level is that of ETSI's PAdES baseline: B-B for a signature, B-T with a time stamp, B-LT with what proves it years
	// later, B-LTA with a time stamp over that; “time stamp” for such a one, which nobody signs.
	Level string `json:"level,omitempty"`
}

// Levels of signatures.
const (
	Basic       = "B-B"
	Timed       = "B-T"
	LongTerm    = "B-LT"
	Archival    = "B-LTA"
	OnlyStamped = "time stamp"
)

// Stamp is the time that an authority confirms.
type Stamp struct {
	At time.Time `json:"at"`
	By string    `json:"by"`
}

// Trust is whose certificates are believed.
type Trust struct {
	Roots *x509.CertPool // nil for those of the system
	// Stamp reads the token of an authority over data; nil when none is believed.
	Stamp func(token, data []byte) (at time.Time, by string, err error)
}

// ErrPassword tells that a file opens with a password only, and that the one given is not it.
var ErrPassword = pdfread.ErrPassword

// Signatures lists the signatures of a file, in the order of its fields.
func Signatures(file []byte, password string, trust Trust) ([]Signature, error) {
	f, err := pdfread.Open(file, password)
	if err != nil {
		return nil, err
	}
	file = f.Bytes()
	list := []Signature{}
	kept := evidenceOf(f)
	for _, x := range formOf(f).fields {
		if x.value == nil {
			continue
		}
		s := Signature{Field: x.name}
		s.said(f, x.value)
		check := s.check
		if f.Resolve(x.value["SubFilter"]) == pdfread.Name("ETSI.RFC3161") {
			check = s.checkStamp
		}
		if err := check(f, file, x.value, kept, trust); err != nil {
			s.Holds, s.Fault = false, err.Error()
		}
		list = append(list, s)
	}
	archive(list)
	return list, nil
}

// said is what the signature's dictionary tells.
func (s *Signature) said(f *pdfread.File, d pdfread.Dict) {
	text := func(name pdfread.Name) string {
		t, _ := f.Resolve(d[name]).(pdfread.String)
		return t.Text()
	}
	s.Reason, s.Place = text("Reason"), text("Location")
	if at, ok := date(text("M")); ok {
		s.At = at.Format(time.RFC3339)
	}
}

// date reads a date (§7.9.4).
func date(s string) (time.Time, bool) {
	digits := s
	if len(s) > 2 && s[:2] == "D:" {
		digits = s[2:]
	}
	for _, form := range []string{"20060102150405Z07'00'", "20060102150405Z07'00", "20060102150405-07'00'", "20060102150405-07'00", "20060102150405Z", "20060102150405"} {
		if at, err := time.Parse(form, digits); err == nil {
			return at, true
		}
	}
	return time.Time{}, false
}

// check tells whether a signature holds, and whose it is.
func (s *Signature) check(f *pdfread.File, file []byte, d pdfread.Dict, kept *evidence, trust Trust) error {
	covered, raw, err := parts(f, file, d)
	if err != nil {
		return err
	}
	s.Covers = len(file) - len(covered.after)
	signed, err := pkcs7.Unmarshal(raw)
	if err != nil {
		return fmt.Errorf("the signature cannot be read: %w", err)
	}
	if len(signed.Content.SignerInfos) != 1 {
		return fmt.Errorf("it has %d signers, and one is wanted", len(signed.Content.SignerInfos))
	}
	content := slices.Concat(covered.before, covered.behind)
	v, err := signed.Content.Verify(content, false)
	if err != nil {
		return fmt.Errorf("the file was changed after it was signed: %w", err)
	}
	s.Holds = true
	s.Signer, s.Issuer = v.Certificate.Subject.String(), v.Certificate.Issuer.String()
	if err := named(v); err != nil {
		return err
	}
	at := time.Now()
	s.Level = Basic
	if s.stamp(v.SignerInfo, trust); s.Stamp != nil {
		at, s.Level = s.Stamp.At, Timed
	}
	if err := v.VerifyChain(trust.Roots, kept.certs, x509.ExtKeyUsageAny, at); err != nil {
		s.Doubt = err.Error()
	}
	if when, _ := kept.revoked(v.Certificate); !when.IsZero() && !when.After(at) {
		s.Doubt = "its certificate was revoked on " + when.UTC().Format(time.DateOnly)
	}
	if s.Level == Timed && len(kept.certs) > 0 && kept.complete(v.Certificate) == nil {
		s.Level = LongTerm
	}
	s.Trusted = s.Doubt == ""
	if len(covered.after) > 0 {
		s.Later, err = later(file[:s.Covers], f, permission(f, d))
	}
	return err
}

// named asks that the certificate is the one that the signature names, where it names one (RFC 5035 §3).
func named(v pkcs7.Signature) error {
	var list struct{ Certs []asn1.RawValue }
	err := v.SignerInfo.AuthenticatedAttributes.GetOne(oidSigningCertificate, &list)
	if errors.As(err, &pkcs7.ErrNoAttribute{}) {
		return nil
	}
	if err != nil || len(list.Certs) == 0 {
		return fmt.Errorf("the certificate that it names cannot be read: %w", err)
	}
	own := sha256.Sum256(v.Certificate.Raw)
	if !bytes.Contains(list.Certs[0].Bytes, own[:]) {
		return errors.New("it names another certificate than the one that comes with it")
	}
	return nil
}

// tokenIn is the time stamp that stands in a signature (DER); nil for none.
func tokenIn(info *pkcs7.SignerInfo) []byte {
	var token asn1.RawValue
	if info.UnauthenticatedAttributes.GetOne(oidTimeStamp, &token) != nil {
		return nil
	}
	return token.FullBytes
}

// stamp reads the time stamp of a signature.
func (s *Signature) stamp(info *pkcs7.SignerInfo, trust Trust) {
	token := tokenIn(info)
	if trust.Stamp == nil || token == nil {
		return
	}
	at, by, err := trust.Stamp(token, info.EncryptedDigest)
	if err != nil {
		s.Doubt = err.Error()
		return
	}
	s.Stamp = &Stamp{at, by}
}

// checkStamp tells whether a time stamp over the file holds, and whose it is (§12.8.5).
func (s *Signature) checkStamp(f *pdfread.File, file []byte, d pdfread.Dict, _ *evidence, trust Trust) error {
	covered, raw, err := parts(f, file, d)
	if err != nil {
		return err
	}
	s.Covers, s.Level = len(file)-len(covered.after), OnlyStamped
	var token asn1.RawValue
	if _, err := asn1.Unmarshal(raw, &token); err != nil { // zeros follow it
		return fmt.Errorf("the time stamp cannot be read: %w", err)
	}
	signed, err := pkcs7.Unmarshal(token.FullBytes)
	if err != nil {
		return fmt.Errorf("the time stamp cannot be read: %w", err)
	}
	content := slices.Concat(covered.before, covered.behind)
	v, err := pkcs9.Verify(signed, content, nil)
	if err != nil {
		return fmt.Errorf("the file was changed after it was stamped: %w", err)
	}
	s.Holds = true
	s.Signer, s.Issuer = v.Certificate.Subject.String(), v.Certificate.Issuer.String()
	s.Stamp = &Stamp{v.SigningTime.UTC(), s.Signer}
	s.Doubt = "no authority is trusted here"
	if trust.Stamp != nil {
		s.Doubt = ""
		if _, _, err := trust.Stamp(token.FullBytes, content); err != nil {
			s.Doubt = err.Error()
		}
	}
	s.Trusted = s.Doubt == ""
	if len(covered.after) > 0 {
		s.Later, err = later(file[:s.Covers], f, Approve)
	}
	return err
}

// archive raises the level of signatures whose evidence a time stamp that holds is over.
func archive(list []Signature) {
	for i := range list {
		s := &list[i]
		if s.Level == LongTerm && slices.ContainsFunc(list, func(x Signature) bool { return x.Level == OnlyStamped && x.Holds && x.Covers > s.Covers }) {
			s.Level = Archival
		}
	}
}

// extent is a file as a signature sees it: what stands before and behind it, and what was appended later.
type extent struct{ before, behind, after []byte }

// parts takes a file apart at a signature, which is all that it leaves out (§12.8.1).
func parts(f *pdfread.File, file []byte, d pdfread.Dict) (e extent, cms []byte, err error) {
	list, _ := f.Resolve(d["ByteRange"]).(pdfread.Array)
	var n [4]int
	for i := range n {
		if len(list) != 4 {
			return e, nil, errors.New("it does not say which bytes it is over")
		}
		v, ok := f.Resolve(list[i]).(int64)
		if !ok || v < 0 || v > int64(len(file)) {
			return e, nil, errors.New("the bytes that it is over are not in the file")
		}
		n[i] = int(v)
	}
	if n[0] != 0 || n[1] >= n[2] || n[2]+n[3] > len(file) {
		return e, nil, errors.New("it is not over the file from its beginning")
	}
	hole := file[n[1]:n[2]]
	if len(hole) < 2 || hole[0] != '<' || hole[len(hole)-1] != '>' {
		return e, nil, errors.New("it leaves out more than the signature")
	}
	cms = make([]byte, hex.DecodedLen(len(hole)-2))
	if _, err := hex.Decode(cms, hole[1:len(hole)-1]); err != nil {
		return e, nil, fmt.Errorf("the signature is not written in hexadecimal digits: %w", err)
	}
	return extent{file[:n[1]], file[n[2] : n[2]+n[3]], file[n[2]+n[3]:]}, cms, nil
}
