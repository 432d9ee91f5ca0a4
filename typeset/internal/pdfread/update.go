package pdfread

import (
	"bytes"
	"errors"
	"sort"
	"strconv"
)

// Update is what is appended to a file: objects that are new or stand instead of others (§7.5.6).
type Update struct {
	file    *File
	objects map[int][]byte
	next    int
}

// ErrNoUpdate tells why a file cannot be updated.
var ErrNoUpdate = errors.New("it is damaged, or protected by a password: write it anew with bind first")

// NewUpdate begins one. Files that are damaged or protected have none.
func NewUpdate(f *File) (*Update, error) {
	if f.Rebuilt || f.Trailer["Encrypt"] != nil || f.before > 0 {
		return nil, ErrNoUpdate
	}
	u := &Update{file: f, objects: map[int][]byte{}}
	for num, p := range f.places {
		u.next = max(u.next, num+1)
		if p.gen > 0 && p.offset >= 0 {
			return nil, errors.New("it has objects of later generations: write it anew with bind first")
		}
	}
	if size, ok := f.Trailer["Size"].(int64); ok && size < maxObjects {
		u.next = max(u.next, int(size))
	}
	return u, nil
}

// Alloc gives the number of a new object.
func (u *Update) Alloc() Ref {
	u.next++
	return Ref{Num: u.next - 1}
}

// Set gives an object its contents, as it stands between obj and endobj.
func (u *Update) Set(r Ref, body []byte) { u.objects[r.Num] = body }

// SetObject is Set for an object that was read.
func (u *Update) SetObject(r Ref, o Object) {
	u.Set(r, Append(nil, o, func(r Ref) int { return r.Num }))
}

// Bytes gives the file with the update at its end. The cross-reference section is of the kind that the file has.
func (u *Update) Bytes() []byte {
	out := bytes.Clone(u.file.data)
	if !bytes.HasSuffix(out, []byte("\n")) {
		out = append(out, '\n')
	}
	places := map[int]int{}
	for _, num := range u.numbers() {
		places[num] = len(out)
		out = append(strconv.AppendInt(out, int64(num), 10), " 0 obj\n"...)
		out = append(append(out, u.objects[num]...), "\nendobj\n"...)
	}
	trailer := Dict{"Root": u.file.Trailer["Root"], "Prev": int64(u.file.start)}
	for _, key := range []Name{"Info", "ID"} {
		if v := u.file.Trailer[key]; v != nil {
			trailer[key] = v
		}
	}
	if u.file.Trailer["Type"] == Name("XRef") {
		return u.stream(out, places, trailer)
	}
	return u.table(out, places, trailer)
}

func (u *Update) numbers() []int {
	list := make([]int, 0, len(u.objects))
	for num := range u.objects {
		list = append(list, num)
	}
	sort.Ints(list)
	return list
}

// table writes a cross-reference table (§7.5.4).
func (u *Update) table(out []byte, places map[int]int, trailer Dict) []byte {
	start := len(out)
	out = append(out, "xref\n"...)
	for _, run := range stretches(u.numbers()) {
		out = append(strconv.AppendInt(out, int64(run[0]), 10), ' ')
		out = append(strconv.AppendInt(out, int64(run[1]), 10), '\n')
		for num := run[0]; num < run[0]+run[1]; num++ {
			at := strconv.Itoa(places[num])
			out = append(append(append(out, "0000000000"[len(at):]...), at...), " 00000 n \n"...)
		}
	}
	trailer["Size"] = int64(u.next)
	out = append(out, "trailer\n"...)
	return end(appendDict(out, trailer), start)
}

// stream writes a cross-reference stream (§7.5.8).
func (u *Update) stream(out []byte, places map[int]int, trailer Dict) []byte {
	own, start := u.Alloc(), len(out)
	places[own.Num] = start
	list := append(u.numbers(), own.Num)
	sort.Ints(list)
	var rows []byte
	var index Array
	for _, run := range stretches(list) {
		index = append(index, int64(run[0]), int64(run[1]))
		for num := run[0]; num < run[0]+run[1]; num++ {
			at := places[num]
			rows = append(rows, 1, byte(at>>24), byte(at>>16), byte(at>>8), byte(at), 0)
		}
	}
	trailer["Type"], trailer["Size"], trailer["Index"] = Name("XRef"), int64(u.next), index
	trailer["W"], trailer["Length"] = Array{int64(1), int64(4), int64(1)}, int64(len(rows))
	out = append(strconv.AppendInt(out, int64(own.Num), 10), " 0 obj\n"...)
	out = append(appendDict(out, trailer), "stream\n"...)
	return end(append(append(out, rows...), "\nendstream\nendobj"...), start)
}

func appendDict(out []byte, d Dict) []byte {
	return append(Append(out, d, func(r Ref) int { return r.Num }), '\n')
}

func end(out []byte, start int) []byte {
	out = append(out, "\nstartxref\n"...)
	return append(strconv.AppendInt(out, int64(start), 10), "\n%%EOF\n"...)
}

// stretches are the first numbers and the lengths of the stretches in a sorted list.
func stretches(list []int) (out [][2]int) {
	for _, num := range list {
		if n := len(out); n > 0 && out[n-1][0]+out[n-1][1] == num {
			out[n-1][1]++
		} else {
			out = append(out, [2]int{num, 1})
		}
	}
	return out
}

// Changed lists the objects that another file, of which this one is the beginning, has otherwise or anew.
func (f *File) Changed(later *File) (list []int) {
	for num, p := range later.places {
		if was, ok := f.places[num]; !ok || was != p {
			list = append(list, num)
		}
	}
	sort.Ints(list)
	return list
}

// Object is the indirect object of a number; nil when there is none.
func (f *File) Object(num int) Object { return f.Resolve(Ref{Num: num}) }

// Bytes is the file from its header on.
func (f *File) Bytes() []byte { return f.data }
