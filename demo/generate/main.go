// Command generate makes the demo's records and pictures. The same run gives
// the same files: its chance comes from a fixed seed.
package main

import (
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"log"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strconv"
	"time"

	"github.com/shopspring/decimal"
)

func main() {
	dir := "demo"
	if len(os.Args) > 1 {
		dir = os.Args[1]
	}
	r := rand.New(rand.NewPCG(1874, 31))
	write(dir, "records/invoices.json", invoices(r))
	write(dir, "records/certificates.json", certificates(r))
	report := season(r)
	write(dir, "records/season.json", []any{report})
	write(dir, "templates/mooring-invoice/sample.json", sample(dir, "invoices.json"))
	write(dir, "templates/course-certificate/sample.json", sample(dir, "certificates.json"))
	write(dir, "templates/season-report/sample.json", report)
	photo(filepath.Join(dir, "templates/season-report/harbour.jpg"), 1500, 900)
}

func sample(dir, name string) any {
	raw, err := os.ReadFile(filepath.Join(dir, "records", name))
	check(err)
	var list []any
	check(json.Unmarshal(raw, &list))
	return list[2]
}

func check(err error) {
	if err != nil {
		log.Fatal(err)
	}
}

func write(dir, name string, v any) {
	b, err := json.MarshalIndent(v, "", "  ")
	check(err)
	path := filepath.Join(dir, name)
	check(os.MkdirAll(filepath.Dir(path), 0o755))
	check(os.WriteFile(path, append(b, '\n'), 0o644))
}

func pick[T any](r *rand.Rand, list []T) T { return list[r.IntN(len(list))] }

var (
	people = []string{
		"Márta Szőllősi", "Seán O'Rourke", "Inês Conceição", "Åsa Lindqvist", "Jürgen Weißmüller", "Zoë D'Alembert", "Łukasz Wiśniewski", "Noémie Lefèvre",
		"Þóra Einarsdóttir", "Dafydd ap Rhys", "Çağla Yıldız", "Nguyễn Thị Hoa", "Ondřej Dvořáček", "Søren Ærøsund", "Chiara D'Angelo", "Ruairí Mac Giolla", "Anneliese Groß", "Matteo Còrdoba", "Hélène Saint-Îles", "Bjørn Øvergård",
	}
	firms = []string{"Saltmarsh & Sons Boatyard", "Compagnie des Voiles d'Été", "Nordlicht Segelschule GmbH", "O'Hare Marine Surveys", "Tern Island Charters", "Møllers Bådservice", "Cabo Quebrado Pesca Lda"}
	towns = []string{"Tidewell", "Port Almond", "Saint-Brieux-sur-Anse", "Kleinhaven", "Skerry Bay", "Vila do Cabo", "Nørrestrand", "Caldermouth"}
	roads = []string{"Capstan Row", "Rue du Vieux Môle", "Lotsenweg", "Herring Lane", "Travessa da Maré", "Gammel Havnevej", "Anchor Terrace"}
	ships = []string{"Petrel", "Señora del Mar", "Früh am Wind", "Étoile Polaire", "Saoirse", "Blå Måne", "Kittiwake", "L'Hirondelle", "Nimbus", "Old Patience", "Gwennol", "Tèrra Nòva"}
	works = []struct {
		text, unit string
		price      string
		tax        string
	}{
		{"Berth, per metre and night", "m·night", "1.85", "19"},
		{"Shore power", "kWh", "0.42", "19"},
		{"Fresh water", "m³", "4.10", "7"},
		{"Crane, lift in or out", "lift", "145.00", "19"},
		{"Winter storage ashore", "week", "62.50", "19"},
		{"Pilot launch", "trip", "88.00", "19"},
		{"Harbour dues", "night", "3.20", "0"},
		{"Waste disposal", "flat", "12.00", "7"},
		{"Hull wash, high pressure", "m", "9.75", "19"},
		{"Laundry tokens", "piece", "2.50", "19"},
		{"Pump-out station", "use", "8.00", "7"},
		{"Mooring lines, replaced", "piece", "34.90", "19"},
		{"Towage inside the harbour", "hour", "120.00", "19"},
	}
)

type obj = map[string]any

func invoices(r *rand.Rand) []any {
	var out []any
	start := time.Date(2026, 4, 3, 0, 0, 0, 0, time.UTC)
	for i := range 64 {
		n := 1 + r.IntN(9)
		switch i {
		case 4, 31:
			n = 40
		case 11, 45:
			n = 26
		case 20:
			n = 1
		}
		customer := obj{"name": pick(r, people), "street": fmt.Sprintf("%d %s", 1+r.IntN(120), pick(r, roads)), "town": fmt.Sprintf("%05d %s", 10000+r.IntN(80000), pick(r, towns))}
		if r.IntN(4) == 0 {
			customer["company"] = pick(r, firms)
		}
		inv := obj{
			"number": fmt.Sprintf("QL-2026-%04d", i+1), "kind": "invoice", "customer": customer, "vessel": obj{"name": pick(r, ships), "length": fmt.Sprintf("%.1f", 6+r.Float64()*12)},
			"berth": fmt.Sprintf("%c%02d", 'A'+r.IntN(6), 1+r.IntN(40)), "note": "",
		}
		switch i {
		case 8:
			customer["name"], customer["company"] = "ليلى بنت يوسف الملاح", "ميناء اللؤلؤة للإبحار"
			inv["note"] = "شكراً لزيارتكم ميناءنا."
		case 14:
			inv["kind"] = "credit"
			inv["note"] = "This credit note corrects invoice QL-2026-0009: the crane was ordered but the lift did not take place because of the wind."
		}
		date := start.AddDate(0, 0, i*3)
		inv["date"], inv["due"] = date.Format("2006-01-02"), date.AddDate(0, 0, 14).Format("2006-01-02")
		lines(r, inv, n, date, i)
		out = append(out, inv)
	}
	return out
}

func lines(r *rand.Rand, inv obj, n int, date time.Time, i int) {
	var list []any
	nets := map[string]decimal.Decimal{}
	for k := range n {
		w := pick(r, works)
		qty := decimal.New(int64(10+r.IntN(900)), -1)
		if w.unit == "lift" || w.unit == "trip" || w.unit == "piece" || w.unit == "flat" || w.unit == "use" {
			qty = decimal.NewFromInt(int64(1 + r.IntN(4)))
		}
		discount := decimal.Zero
		if r.IntN(6) == 0 {
			discount = decimal.NewFromInt(int64(5 * (1 + r.IntN(4))))
		}
		price := decimal.RequireFromString(w.price)
		hundred := decimal.NewFromInt(100)
		amount := qty.Mul(price).Mul(hundred.Sub(discount)).Div(hundred).Round(2)
		text := w.text
		if i == 25 && k == 0 {
			text = "Emergency recovery in the night of the equinox gale: two harbour launches and a crew of five worked from 23:40 to 05:15 to free the vessel from the outer mole, passed three new mooring lines, pumped the flooded engine room dry, sealed the sprung plank at the port quarter with a collision mat, and brought her to the crane berth, where she was lifted at first light and blocked up ashore; diver's inspection of rudder and propeller included, materials as listed in the harbour master's log of the same night."
		}
		if inv["kind"] == "credit" {
			amount, qty = amount.Neg(), qty.Neg()
		}
		nets[w.tax] = nets[w.tax].Add(amount)
		list = append(list, obj{
			"date": date.AddDate(0, 0, k-n).Format("2006-01-02"), "text": text, "unit": w.unit, "quantity": json.Number(qty.String()),
			"price": json.Number(price.StringFixed(2)), "discount": json.Number(discount.String()), "tax": json.Number(w.tax), "amount": json.Number(amount.StringFixed(2)),
		})
	}
	total := decimal.Zero
	for _, rate := range []string{"0", "7", "19"} {
		if base, ok := nets[rate]; ok {
			tax := base.Mul(decimal.RequireFromString(rate)).Div(decimal.NewFromInt(100)).Round(2)
			total = total.Add(base).Add(tax)
		}
	}
	inv["lines"], inv["total"] = list, json.Number(total.StringFixed(2))
}

func certificates(r *rand.Rand) []any {
	courses := []obj{
		{"name": "Coastal Skipper", "days": 10, "text": "passage planning, tides and tidal streams, pilotage by day and night, and command of a yacht of up to twelve metres"},
		{"name": "Competent Crew", "days": 5, "text": "ropework, helming, sail handling, safety on deck and life aboard"},
		{"name": "Dinghy Level II", "days": 4, "text": "launching and landing, all points of sailing, capsize recovery and the rules of the road"},
		{"name": "Marine Radio", "days": 2, "text": "distress, urgency and safety traffic, routine calls and the phonetic alphabet"},
	}
	var out []any
	for i := range 40 {
		name := people[i%len(people)]
		if i >= len(people) {
			name = pick(r, []string{"Ayşe", "José", "Siobhán", "Émile", "Greta", "Håkon", "Ilse", "Tomasz"}) + " " + pick(r, []string{"Maréchal", "Kowalczyk", "Ó Briain", "Fjellheim", "Größler", "da Conceição", "Van der Zee", "Žižka"})
		}
		if i == 6 {
			name = "Maximiliane-Konstanze von Hohenberg-Westerloo zu Lindenau"
		}
		date := time.Date(2026, 5, 9, 0, 0, 0, 0, time.UTC).AddDate(0, 0, 4*i)
		out = append(out, obj{
			"number": fmt.Sprintf("SC-%03d", i+1), "holder": name, "course": pick(r, courses), "date": date.Format("2006-01-02"),
			"instructor": pick(r, []string{"Captain Edda Halloran", "Captain Jón Hafberg"}), "grade": pick(r, []string{"with distinction", "with merit", "successfully"}),
		})
	}
	return out
}

func season(r *rand.Rand) obj {
	var weeks, berths, months []any
	start := time.Date(2026, 4, 6, 0, 0, 0, 0, time.UTC)
	arrivals, nights, income := 0, 0, decimal.Zero
	byMonth := map[time.Month]int{}
	for i := range 30 {
		from := start.AddDate(0, 0, 7*i)
		n := 180 + int(420*math.Sin(math.Pi*float64(i)/29)) + r.IntN(60)
		came, earned := n/6+r.IntN(8)-4, decimal.NewFromFloat(float64(n)*21.4+r.Float64()*400).Round(2)
		weeks = append(weeks, obj{"week": i + 15, "from": from.Format("2006-01-02"), "arrivals": came, "nights": n, "occupancy": json.Number(fmt.Sprintf("%.1f", float64(n)/7.2)), "income": json.Number(earned.StringFixed(2))})
		arrivals, nights, income = arrivals+came, nights+n, income.Add(earned)
		byMonth[from.Month()] += n
	}
	for _, pier := range "ABCDEF" {
		for n := 1; n <= 20; n++ {
			nights := 40 + r.IntN(160)
			berths = append(berths, obj{"berth": fmt.Sprintf("%c%02d", pier, n), "length": strconv.Itoa(8 + r.IntN(10)), "nights": nights, "vessels": 3 + r.IntN(40), "income": json.Number(fmt.Sprintf("%.2f", float64(nights)*19.6+r.Float64()*300)), "remark": pick(r, []string{"", "", "", "new cleats in May", "power post renewed", "silted, dredged in August", "reserved for guests"})})
		}
	}
	most := 0
	for _, n := range byMonth {
		most = max(most, n)
	}
	for m := time.April; m <= time.October; m++ {
		months = append(months, obj{"name": m.String(), "value": (byMonth[m] + 50) / 100, "percent": byMonth[m] * 100 / most})
	}
	return obj{"year": 2026, "title": "Season Report 2026", "arrivals": arrivals, "nights": nights, "courses": 41, "income": json.Number(income.StringFixed(2)), "months": months, "weeks": weeks, "berths": berths}
}

// photo draws an evening at the harbour: sky, sea, hills, boats and grain.
func photo(path string, w, h int) {
	im := image.NewRGBA(image.Rect(0, 0, w, h))
	r := rand.New(rand.NewPCG(7, 7))
	horizon := float64(h) * 0.56
	for y := range h {
		for x := range w {
			fx, fy := float64(x)/float64(w), float64(y)
			var c [3]float64
			if fy < horizon {
				t := fy / horizon
				c = blend([3]float64{62, 86, 132}, [3]float64{246, 178, 120}, math.Pow(t, 1.6))
				sun := math.Hypot((fx-0.68)*float64(w), fy-horizon*0.86)
				c = blend(c, [3]float64{255, 240, 205}, math.Exp(-sun*sun/9000))
				cloud := math.Sin(fx*17+math.Sin(fy/31)*2) * math.Sin(fy/23+fx*5)
				c = blend(c, [3]float64{250, 214, 190}, math.Max(cloud-0.35, 0)*0.5)
			} else {
				t := (fy - horizon) / (float64(h) - horizon)
				c = blend([3]float64{214, 152, 112}, [3]float64{22, 44, 66}, math.Pow(t, 0.7))
				glint := math.Exp(-math.Pow((fx-0.68)*float64(w)/(60+t*220), 2)) * (0.5 + 0.5*math.Sin(fy*0.9+math.Sin(fx*90)*2.2))
				c = blend(c, [3]float64{255, 226, 178}, glint*0.8*(1-t*0.5))
				c = blend(c, [3]float64{10, 24, 40}, 0.12*(1+math.Sin(fy*0.55+fx*40)))
			}
			hill := horizon - 46 - 30*math.Sin(fx*5.1+1) - 14*math.Sin(fx*13)
			if fy > hill && fy < horizon {
				c = blend(c, [3]float64{52, 58, 78}, 0.85)
			}
			g := (r.Float64() - 0.5) * 9
			im.SetRGBA(x, y, color.RGBA{clamp(c[0] + g), clamp(c[1] + g), clamp(c[2] + g), 255})
		}
	}
	for i := range 9 {
		boat(im, 90+i*165+r.IntN(60), int(horizon)+18+r.IntN(150), 0.6+r.Float64()*0.9)
	}
	f, err := os.Create(path)
	check(err)
	check(jpeg.Encode(f, im, &jpeg.Options{Quality: 84}))
	check(f.Close())
}

func boat(im *image.RGBA, x, y int, s float64) {
	dark := color.RGBA{24, 28, 38, 255}
	for dy := 0.0; dy < 16*s; dy++ { // hull
		half := 44*s - dy*0.9
		for dx := -half; dx < half; dx++ {
			im.SetRGBA(x+int(dx), y+int(dy), dark)
		}
	}
	for dy := 0.0; dy < 120*s; dy++ { // mast
		for k := range 2 {
			im.SetRGBA(x+k, y-int(dy), dark)
		}
	}
	for dy := 8 * s; dy < 106*s; dy++ { // sail
		for dx := 3.0; dx < (106*s-dy)*0.36; dx++ {
			im.SetRGBA(x+int(dx), y-int(dy), color.RGBA{236, 220, 196, 255})
		}
	}
}

func blend(a, b [3]float64, t float64) (c [3]float64) {
	t = math.Min(math.Max(t, 0), 1)
	for i := range c {
		c[i] = a[i] + (b[i]-a[i])*t
	}
	return c
}

func clamp(v float64) uint8 { return uint8(math.Min(math.Max(v, 0), 255)) }
