package sign

import (
	"bytes"
	"errors"
	"fmt"
	"strings"

	"oliveledger/typeset/internal/pdfread"
)

// later tells what was appended to a file since it was signed. What the signature does not permit is an error.
func later(signed []byte, now *pdfread.File, p Permission) (string, error) {
	was, err := pdfread.Open(signed, "")
	if err != nil {
		return "", fmt.Errorf("the file as it was signed cannot be read: %w", err)
	}
	said := map[string]bool{}
	for _, num := range was.Changed(now) {
		kind, err := change(was, now, num)
		if err != nil {
			return "", err
		}
		said[kind] = true
	}
	switch {
	case said["commented"] && p != Approve && p != Comment:
		return "", errors.New("annotations were added after it was certified that none are")
	case said["filled"] && p == Nothing:
		return "", errors.New("fields were filled in after it was certified that nothing changes")
	case said["commented"]:
		return "annotations were added, which may hide what was signed", nil
	case said["filled"]:
		return "fields were filled in", nil
	case said["signed"]:
		return "it was signed again", nil
	case said["stamped"]:
		return "a time stamp over all of it was added", nil
	case said["proven"]:
		return "what proves it years later was added", nil
	}
	return "something that is not seen was added", nil
}

// change tells what an object that was changed or added is good for. Whatever pages show stays as it was signed.
func change(was, now *pdfread.File, num int) (kind string, err error) {
	old, object := was.Object(num), now.Object(num)
	before, after := dictOf(old), dictOf(object)
	switch {
	case object == nil:
		return "", fmt.Errorf("the object %d was taken away after it was signed", num)
	case old == nil && isSignature(after):
		return signedOrStamped(now, after), nil
	case old == nil: // what was added is seen only where an old object leads to it
		return "added", nil
	case after["Type"] == pdfread.Name("Catalog"):
		kind = "added"
		if before["DSS"] == nil && after["DSS"] != nil {
			kind = "proven"
		}
		return kind, only(num, before, after, "AcroForm", "Perms", "DSS", "Extensions", "Version", "Metadata")
	case after["Type"] == pdfread.Name("Page"):
		return annotated(was, now, before, after), only(num, before, after, "Annots", "Tabs")
	case after["FT"] == pdfread.Name("Sig"):
		return signedOrStamped(now, after), only(num, before, after, "V", "AP", "M")
	case after["FT"] != nil || after["Subtype"] == pdfread.Name("Widget"):
		return "filled", only(num, before, after, "V", "AS", "AP", "M")
	case after["Type"] == pdfread.Name("StructTreeRoot"):
		return "added", only(num, before, after, "K", "ParentTree", "ParentTreeNextKey")
	case after["Type"] == pdfread.Name("StructElem") || after["S"] != nil && after["P"] != nil:
		return "added", only(num, before, after, "K")
	case after["Fields"] != nil:
		return "added", only(num, before, after, "Fields", "SigFlags", "DR", "NeedAppearances")
	case after["Type"] == pdfread.Name("XRef"):
		return "added", nil
	}
	return "", fmt.Errorf("the object %d was changed after it was signed", num)
}

// annotated tells whether a page has got annotations that are more than signature fields.
func annotated(was, now *pdfread.File, before, after pdfread.Dict) string {
	there := map[pdfread.Object]bool{}
	old, _ := was.Resolve(before["Annots"]).(pdfread.Array)
	for _, o := range old {
		if ref, ok := o.(pdfread.Ref); ok {
			there[ref] = true
		}
	}
	list, _ := now.Resolve(after["Annots"]).(pdfread.Array)
	for _, o := range list {
		if ref, ok := o.(pdfread.Ref); !ok || !there[ref] && now.Dict(ref)["FT"] != pdfread.Name("Sig") {
			return "commented"
		}
	}
	return "added"
}

func isSignature(d pdfread.Dict) bool {
	t := d["Type"]
	return t == pdfread.Name("Sig") || t == pdfread.Name("DocTimeStamp") || d["FT"] == pdfread.Name("Sig")
}

// signedOrStamped tells what a signature or its field is: one that somebody signs, or a time stamp over the file.
func signedOrStamped(f *pdfread.File, d pdfread.Dict) string {
	if value := f.Dict(d["V"]); value != nil {
		d = value
	}
	if d["Type"] == pdfread.Name("DocTimeStamp") {
		return "stamped"
	}
	return "signed"
}

// only asks that no other entries of a dictionary were changed.
func only(num int, before, after pdfread.Dict, entries ...pdfread.Name) error {
	a, b := clone(before), clone(after)
	for _, e := range entries {
		delete(a, e)
		delete(b, e)
	}
	own := func(r pdfread.Ref) int { return r.Num }
	if x, y := pdfread.Append(nil, a, own), pdfread.Append(nil, b, own); !bytes.Equal(x, y) {
		return fmt.Errorf("the object %d, which is a %s, was changed after it was signed", num, strings.ToLower(fmt.Sprint(after["Type"])))
	}
	return nil
}

func dictOf(o pdfread.Object) pdfread.Dict {
	switch v := o.(type) {
	case pdfread.Dict:
		return v
	case *pdfread.Stream:
		return v.Dict
	}
	return nil
}

// permission is what a signature permits to follow it.
func permission(f *pdfread.File, d pdfread.Dict) Permission {
	list, _ := f.Resolve(d["Reference"]).(pdfread.Array)
	for _, o := range list {
		r := f.Dict(o)
		if r["TransformMethod"] != pdfread.Name("DocMDP") {
			continue
		}
		if p, ok := f.Resolve(f.Dict(r["TransformParams"])["P"]).(int64); ok && p >= 1 && p <= 3 {
			return Permission(p)
		}
		return Fill // what is meant when nothing is said
	}
	return Approve
}
