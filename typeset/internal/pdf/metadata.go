package pdf

import (
	"encoding/xml"
	"fmt"
	"strings"
	"time"
)

// Profile is an archive profile (ISO 19005-2 and -3).
type Profile string

// The profiles that can be asked for.
const (
	Plain    Profile = ""
	Archive2 Profile = "PDF/A-2u"
	Archive3 Profile = "PDF/A-3u"
)

// part is the number of the standard's part.
func (p Profile) part() string {
	return strings.TrimSuffix(strings.TrimPrefix(string(p), "PDF/A-"), "u")
}

// accessSchema tells an archive what the mark of PDF/UA means, which is none of the
// properties that it knows (ISO 19005-2, §6.6.2.3).
const accessSchema = `<pdfaExtension:schemas xmlns:pdfaExtension="http://www.aiim.org/pdfa/ns/extension/" xmlns:pdfaSchema="http://www.aiim.org/pdfa/ns/schema#" xmlns:pdfaProperty="http://www.aiim.org/pdfa/ns/property#"><rdf:Bag><rdf:li rdf:parseType="Resource">
<pdfaSchema:schema>PDF/UA Universal Accessibility Schema</pdfaSchema:schema><pdfaSchema:namespaceURI>http://www.aiim.org/pdfua/ns/id/</pdfaSchema:namespaceURI><pdfaSchema:prefix>pdfuaid</pdfaSchema:prefix>
<pdfaSchema:property><rdf:Seq><rdf:li rdf:parseType="Resource"><pdfaProperty:name>part</pdfaProperty:name><pdfaProperty:valueType>Integer</pdfaProperty:valueType><pdfaProperty:category>internal</pdfaProperty:category><pdfaProperty:description>Part of ISO 14289 that the file follows</pdfaProperty:description></rdf:li></rdf:Seq></pdfaSchema:property>
</rdf:li></rdf:Bag></pdfaExtension:schemas>
`

// metadata writes the XMP packet (ISO 16684-1): what the information
// dictionary says, and which standards the file follows.
func (w *Writer) metadata() Ref {
	var b strings.Builder
	esc := func(s string) string {
		var out strings.Builder
		if xml.EscapeText(&out, []byte(s)) != nil {
			return ""
		}
		return out.String()
	}
	b.WriteString("<?xpacket begin=\"\uFEFF\" id=\"W5M0MpCehiHzreSzNTczkc9d\"?>\n<x:xmpmeta xmlns:x=\"adobe:ns:meta/\"><rdf:RDF xmlns:rdf=\"http://www.w3.org/1999/02/22-rdf-syntax-ns#\"><rdf:Description rdf:about=\"\"" +
		" xmlns:dc=\"http://purl.org/dc/elements/1.1/\" xmlns:pdf=\"http://ns.adobe.com/pdf/1.3/\" xmlns:xmp=\"http://ns.adobe.com/xap/1.0/\" xmlns:pdfaid=\"http://www.aiim.org/pdfa/ns/id/\" xmlns:pdfuaid=\"http://www.aiim.org/pdfua/ns/id/\">\n")
	b.WriteString("<dc:format>application/pdf</dc:format>\n<pdf:Producer>" + producer + "</pdf:Producer>\n")
	if w.Info.Title != "" {
		fmt.Fprintf(&b, "<dc:title><rdf:Alt><rdf:li xml:lang=\"x-default\">%s</rdf:li></rdf:Alt></dc:title>\n", esc(w.Info.Title))
	}
	if w.Info.Author != "" {
		fmt.Fprintf(&b, "<dc:creator><rdf:Seq><rdf:li>%s</rdf:li></rdf:Seq></dc:creator>\n", esc(w.Info.Author))
	}
	if w.Info.Subject != "" {
		fmt.Fprintf(&b, "<dc:description><rdf:Alt><rdf:li xml:lang=\"x-default\">%s</rdf:li></rdf:Alt></dc:description>\n", esc(w.Info.Subject))
	}
	if w.Info.Keywords != "" {
		fmt.Fprintf(&b, "<pdf:Keywords>%s</pdf:Keywords>\n", esc(w.Info.Keywords))
	}
	if w.Info.Creator != "" {
		fmt.Fprintf(&b, "<xmp:CreatorTool>%s</xmp:CreatorTool>\n", esc(w.Info.Creator))
	}
	if d := isoDate(w.Info.Date); d != "" {
		fmt.Fprintf(&b, "<xmp:CreateDate>%s</xmp:CreateDate><xmp:ModifyDate>%s</xmp:ModifyDate>\n", d, d)
	}
	if w.Profile != Plain {
		fmt.Fprintf(&b, "<pdfaid:part>%s</pdfaid:part><pdfaid:conformance>U</pdfaid:conformance>\n", w.Profile.part())
	}
	if w.claimsAccess() {
		b.WriteString("<pdfuaid:part>1</pdfuaid:part>\n")
		if w.Profile != Plain {
			b.WriteString(accessSchema)
		}
	}
	b.WriteString("</rdf:Description></rdf:RDF></x:xmpmeta>\n<?xpacket end=\"w\"?>")
	id := w.alloc()
	how := quick
	if w.Profile != Plain { // tools are to find it in the file as it is
		how = unpacked
	}
	w.stream(id, "/Type/Metadata/Subtype/XML", []byte(b.String()), how)
	return id
}

// Date writes a time as the information dictionary has it (§7.9.4); the zero
// time is none.
func Date(t time.Time) string {
	if t.IsZero() {
		return ""
	}
	return "D:" + t.UTC().Format("20060102150405") + "Z"
}

// isoDate turns D:YYYYMMDDHHmmSSZ into the form of ISO 8601.
func isoDate(d string) string {
	d = strings.TrimPrefix(d, "D:")
	if len(d) != 15 {
		return ""
	}
	return d[0:4] + "-" + d[4:6] + "-" + d[6:8] + "T" + d[8:10] + ":" + d[10:12] + ":" + d[12:14] + "Z"
}

// outputIntent says what the colours of an archived file mean (§14.11.5).
func (w *Writer) outputIntent() string {
	id := w.alloc()
	w.stream(id, "/N 3", sRGBProfile(), well)
	return fmt.Sprintf("/OutputIntents[<</Type/OutputIntent/S/GTS_PDFA1/OutputConditionIdentifier(sRGB IEC61966-2.1)/Info(sRGB IEC61966-2.1)/DestOutputProfile %s>>]", id)
}
