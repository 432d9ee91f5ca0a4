// Package e2e tries the console in a browser, on the real service with the
// demo's data.
package e2e

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/client"
	"oliveledger/internal/servicetest"
)

// start gives a service that holds the demo's data.
func start(t testing.TB) *servicetest.Running {
	t.Helper()
	s := servicetest.Start(t, t.TempDir())
	ctx := context.Background()
	for _, name := range []string{"mooring-invoice", "course-certificate", "season-report"} {
		_, err := s.Client.Push(ctx, name, "as shipped", os.DirFS("../demo/templates/"+name))
		require.NoError(t, err)
	}
	for _, name := range []string{"season", "certificates", "invoices"} {
		f, err := os.Open("../demo/records/" + name + ".json")
		require.NoError(t, err)
		_, err = s.Client.Import(ctx, name+".json", nil, f)
		require.NoError(t, err)
		f.Close()
	}
	return s
}

// browser opens a tab of its own.
func browser(t testing.TB) context.Context {
	t.Helper()
	opts := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath("/usr/bin/chromium"), chromedp.NoSandbox, chromedp.WindowSize(1280, 800),
		chromedp.Flag("disable-background-networking", true), chromedp.Flag("disable-component-update", true), chromedp.Flag("disable-sync", true), chromedp.Flag("disable-quic", true))
	alloc, stop := chromedp.NewExecAllocator(context.Background(), opts...)
	t.Cleanup(stop)
	tab, stopTab := chromedp.NewContext(alloc)
	t.Cleanup(stopTab)
	require.NoError(t, chromedp.Do(tab, chromedp.Navigate("about:blank"), inFront)) // the browser lives as long as this context
	ctx, cancel := context.WithTimeout(tab, 8*time.Minute)
	t.Cleanup(cancel)
	return ctx
}

// inFront makes the page believe that it has the keyboard, as the page of a person who works in it has.
func inFront(ctx context.Context, t *chromedp.Target) (chromedp.Void, error) {
	_, err := cdp.Call(ctx, t, emulation.SetFocusEmulationEnabled, emulation.SetFocusEmulationEnabledParams{Enabled: true})
	return chromedp.Void{}, err
}

func do(t testing.TB, ctx context.Context, steps ...chromedp.Action[chromedp.Void]) {
	t.Helper()
	short, cancel := context.WithTimeout(ctx, time.Minute)
	defer cancel()
	require.NoError(t, chromedp.Do(short, steps...))
}

// value evaluates an expression in the page.
func value[T any](t testing.TB, ctx context.Context, js string) T {
	t.Helper()
	v, err := chromedp.Run(ctx, chromedp.Evaluate[T](js))
	require.NoError(t, err)
	return v
}

// until waits for an expression to become true.
func until(t testing.TB, ctx context.Context, js string) {
	t.Helper()
	for end := time.Now().Add(45 * time.Second); time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
		if value[bool](t, ctx, "!!("+js+")") {
			return
		}
	}
	t.Fatalf("this did not become true: %s\n%s", js, value[string](t, ctx, "document.body.innerText"))
}

func logIn(t testing.TB, ctx context.Context, s *servicetest.Running) {
	t.Helper()
	do(t, ctx, chromedp.Navigate(s.URL+"/templates"))
	until(t, ctx, "document.querySelector('#password')")
	do(t, ctx, chromedp.SendKeys("#email", s.Email), chromedp.SendKeys("#password", s.Password))
	press(t, ctx, "form button[type=submit]")
	until(t, ctx, "document.querySelectorAll('.item').length === 3")
}

const drawn = "document.querySelectorAll('.stage canvas').length > 0 && document.querySelector('[data-test=took]') && !document.querySelector('[data-test=busy]')"

// editor runs a change in the open editor: v is its view.
func editor(t testing.TB, ctx context.Context, js string) {
	t.Helper()
	until(t, ctx, "document.querySelector('.cm-content')")
	do(t, ctx, chromedp.Evaluate[chromedp.Void]("(() => { const c = document.querySelector('.cm-content'); const v = c.cmTile?.view ?? c.cmView.view; "+js+" })()"))
}

// click clicks the element of that kind with a text. It waits until it can be seen and used. The click is
// given to the element itself: one at its place on the screen gets lost while something else still fades there.
func click(t testing.TB, ctx context.Context, kind, text string) {
	t.Helper()
	found := fmt.Sprintf("[...document.querySelectorAll(%q)].find(e => e.offsetParent !== null && !e.disabled && e.innerText.trim().includes(%q))", kind, text)
	until(t, ctx, found)
	do(t, ctx, chromedp.Evaluate[chromedp.Void](found+".click()"))
}

// press clicks the first such element.
func press(t testing.TB, ctx context.Context, kind string) {
	t.Helper()
	click(t, ctx, kind, "")
}

// fill writes text into a field.
func fill(t testing.TB, ctx context.Context, selector, text string) {
	t.Helper()
	until(t, ctx, fmt.Sprintf("document.querySelector(%q)", selector))
	do(t, ctx, chromedp.Evaluate[chromedp.Void](fmt.Sprintf("(() => { const i = document.querySelector(%q); i.value = %q; i.dispatchEvent(new Event('input')) })()", selector, text)))
}

// upload chooses a file of this name and text for the page's file input.
func upload(t testing.TB, ctx context.Context, name, text string) {
	t.Helper()
	file := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
	do(t, ctx, chromedp.SetUploadFiles("input[type=file]", []string{file}))
}

// says waits for a text to be on the page.
func says(t testing.TB, ctx context.Context, text string) {
	t.Helper()
	until(t, ctx, fmt.Sprintf("document.body?.innerText.includes(%q)", text))
}

// visit goes to a view of the console.
func visit(t testing.TB, ctx context.Context, s *servicetest.Running, path string) {
	t.Helper()
	do(t, ctx, chromedp.Navigate(s.URL+path))
	until(t, ctx, "document.querySelector('.bar')")
}

// onlyHere checks that no request has left for another host.
func onlyHere(t testing.TB, ctx context.Context, s *servicetest.Running) {
	t.Helper()
	for _, h := range value[[]string](t, ctx, "[...new Set(performance.getEntriesByType('resource').map(r => new URL(r.name).origin))]") {
		assert.True(t, h == s.URL || h == "null", h)
	}
}

// TestWorkbench is the way of the person who makes templates.
func TestWorkbench(t *testing.T) {
	s := start(t)
	ctx := browser(t)

	do(t, ctx, chromedp.Navigate(s.URL+"/documents"))
	until(t, ctx, "location.pathname === '/log-in'")
	do(t, ctx, chromedp.SendKeys("#email", s.Email), chromedp.SendKeys("#password", "wrong"))
	press(t, ctx, "form button[type=submit]")
	until(t, ctx, "document.querySelector('.el-alert--error')")
	logIn(t, ctx, s)

	// a change of the markup changes the page; it is kept as a draft
	visit(t, ctx, s, "/templates/mooring-invoice")
	until(t, ctx, drawn)
	picture := func() string { return value[string](t, ctx, "document.querySelector('.stage canvas').toDataURL()") }
	before := picture()
	editor(t, ctx, "const at = v.state.doc.toString().indexOf('<h1>') + 4; v.dispatch({ changes: { from: at, insert: 'Lantern ' } })")
	until(t, ctx, "document.querySelector('.tools .el-tag')")
	until(t, ctx, drawn)
	for end := time.Now().Add(20 * time.Second); picture() == before && time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
	}
	assert.NotEqual(t, before, picture(), "the preview shows the change")
	says(t, ctx, "draft kept")
	draft, err := s.Client.Draft(context.Background(), "mooring-invoice")
	require.NoError(t, err)
	assert.Contains(t, string(draft.Files["page.html"].Bytes()), "<h1>Lantern ")

	// a mistake is told at its line, and the last good page stays
	editor(t, ctx, "v.dispatch({ changes: { from: 0, insert: '{{.nothing}}' } })")
	until(t, ctx, "document.querySelector('.sheets .el-alert--error')?.innerText.includes('nothing')")
	until(t, ctx, "document.querySelector('.cm-lint-marker-error')")
	editor(t, ctx, "v.dispatch({ changes: { from: 0, to: 12, insert: '' } })")
	until(t, ctx, "!document.querySelector('.sheets .el-alert--error')")

	// a click on a word of the page leads to the markup that shows it
	until(t, ctx, drawn)
	do(t, ctx, chromedp.Evaluate[chromedp.Void](`(() => { const p = document.querySelector('.stage .page'); const r = p.getBoundingClientRect();
		for (let y = 0.02; y < 0.4; y += 0.01) p.dispatchEvent(new MouseEvent('click', { bubbles: true, clientX: r.left + r.width * 0.14, clientY: r.top + r.height * y })) })()`))
	until(t, ctx, "(() => { const c = document.querySelector('.cm-content'); const v = c?.cmTile?.view ?? c?.cmView?.view; return v && !v.state.selection.main.empty })()")

	// paper is set in a form that writes CSS
	click(t, ctx, ".tabs button", "Paper")
	until(t, ctx, "document.querySelector('#paper-mark')")
	says(t, ctx, "On the first page: A4, 18 18 24 20 mm")
	look(t, ctx, "paper")
	do(t, ctx, chromedp.SendKeys("#paper-mark", "DRAFT"))
	until(t, ctx, "document.querySelector('.paper pre').innerText.includes('content: \"DRAFT\"')")
	click(t, ctx, ".tabs button", "Source")
	click(t, ctx, ".files button", "template.yaml")
	until(t, ctx, "document.querySelector('.cm-content')?.innerText.includes('paper.css')")
	click(t, ctx, ".tabs button", "Merged HTML")
	until(t, ctx, "document.querySelector('.cm-content')?.innerText.includes('Lantern')")

	// the records of a set can be stepped through
	click(t, ctx, ".tabs button", "Record")
	click(t, ctx, ".step .el-select__wrapper", "")
	click(t, ctx, ".el-select-dropdown__item", "invoices.json")
	until(t, ctx, "document.querySelector('[data-test=next]')")
	first := value[string](t, ctx, "document.querySelector('.cm-content').innerText")
	press(t, ctx, "[data-test=next]")
	until(t, ctx, fmt.Sprintf("document.querySelector('.cm-content').innerText !== %q", first))

	// a reload keeps the draft; then it is published and compared
	says(t, ctx, "draft kept")
	visit(t, ctx, s, "/templates/mooring-invoice")
	until(t, ctx, drawn)
	until(t, ctx, "document.querySelector('.cm-content').innerText.includes('Lantern')")
	press(t, ctx, "[data-test=publish]")
	until(t, ctx, "document.querySelector('.el-message-box input')")
	do(t, ctx, chromedp.SendKeys(".el-message-box input", "a lantern"))
	press(t, ctx, ".el-message-box__btns .el-button--primary")
	until(t, ctx, "document.querySelector('.tools').innerText.includes('version 2')")
	click(t, ctx, ".tools .el-button", "Compare")
	until(t, ctx, "document.querySelector('.pair.differs')")
	says(t, ctx, "paper.css")
	onlyHere(t, ctx, s)
}

// TestSending is the way of the person who makes and sends documents.
func TestSending(t *testing.T) {
	s := start(t)
	ctx := browser(t)
	logIn(t, ctx, s)

	// import a file: fields get other names
	visit(t, ctx, s, "/records")
	upload(t, ctx, "berths.csv", "Holder;price\nAda;10\nBo;20\n")
	until(t, ctx, "document.querySelector('[data-test=import]')")
	fill(t, ctx, "input[aria-label=Holder]", "name")
	press(t, ctx, "[data-test=import]")
	says(t, ctx, "berths.csv")
	until(t, ctx, "[...document.querySelectorAll('.field')].some(f => f.innerText === 'Ada')")
	set := uint64(4)
	r, err := s.Client.Record(context.Background(), set, 1)
	require.NoError(t, err)
	assert.JSONEq(t, `{"name":"Ada","price":"10"}`, string(r.Data))

	// a cell is edited in its place
	do(t, ctx, chromedp.Evaluate[chromedp.Void]("(() => { const f = document.querySelector('[aria-label=\"name 1\"]'); f.focus(); f.innerText = 'Adele'; f.blur() })()"))
	require.Eventually(t, func() bool {
		r, err = s.Client.Record(context.Background(), set, 1)
		return err == nil && strings.Contains(string(r.Data), "Adele")
	}, 20*time.Second, 50*time.Millisecond)

	press(t, ctx, "[data-test=undo]")
	require.Eventually(t, func() bool {
		r, err = s.Client.Record(context.Background(), set, 1)
		return err == nil && strings.Contains(string(r.Data), `"Ada"`)
	}, 20*time.Second, 50*time.Millisecond)

	// the lines of an invoice open in their place
	click(t, ctx, "aside button", "invoices.json")
	until(t, ctx, "[...document.querySelectorAll('.field')].some(f => f.innerText === 'QL-2026-0001')")
	press(t, ctx, ".el-table__expand-icon")
	until(t, ctx, "document.querySelector('.lists caption')")
	look(t, ctx, "record-lines")
	click(t, ctx, "aside button", "berths.csv")
	until(t, ctx, "[...document.querySelectorAll('.field')].some(f => f.innerText === 'Ada')")

	// a signature is drawn into a field
	click(t, ctx, ".el-table button", "1")
	press(t, ctx, "[data-test=draw]")
	until(t, ctx, "document.querySelector('.el-drawer canvas')")
	do(t, ctx, chromedp.Evaluate[chromedp.Void](`(() => { const c = document.querySelector('.el-drawer canvas'); c.setPointerCapture = () => {}; const r = c.getBoundingClientRect();
		const e = (kind, x, y) => c.dispatchEvent(new PointerEvent(kind, { clientX: r.left + x, clientY: r.top + y, pointerId: 1, pressure: 0.5 }));
		e('pointerdown', 20, 20); e('pointermove', 60, 50); e('pointermove', 120, 30); e('pointerup', 120, 30) })()`))
	press(t, ctx, "[data-test=sign]")
	until(t, ctx, "document.querySelector('.el-drawer .cm-content')?.innerText.includes('data:image/png')")
	press(t, ctx, "[data-test=save]")
	until(t, ctx, "!document.querySelector('.el-drawer')?.offsetParent")
	r, err = s.Client.Record(context.Background(), set, 1)
	require.NoError(t, err)
	assert.Contains(t, string(r.Data), "data:image/png;base64,")

	// a batch with a record that fails, mended and tried again
	_, err = s.Client.SaveRecord(context.Background(), 3, 2, 0, []byte(`{"number":"QL-X"}`))
	require.NoError(t, err)
	good, err := s.Client.Record(context.Background(), 3, 3)
	require.NoError(t, err)
	visit(t, ctx, s, "/batches")
	click(t, ctx, ".head .el-button", "Start a batch")
	until(t, ctx, "document.querySelector('[data-test=start]') && !document.querySelector('[data-test=start]').disabled")
	click(t, ctx, "#batch-template, .el-dialog .el-select__wrapper", "")
	click(t, ctx, ".el-select-dropdown__item", "Mooring invoice")
	do(t, ctx, chromedp.Evaluate[chromedp.Void]("document.querySelectorAll('.el-dialog .el-select__wrapper')[1].click()"))
	click(t, ctx, ".el-select-dropdown__item", "invoices.json")
	press(t, ctx, "[data-test=try]")
	until(t, ctx, "document.querySelectorAll('.trial tbody tr').length === 10")
	says(t, ctx, "Nothing was kept, and no number was taken.")
	until(t, ctx, "document.querySelector('.trial .bad')?.innerText.includes('record 2')")
	until(t, ctx, "document.querySelector('.trial canvas').style.width === '240px'")
	look(t, ctx, "batch-trial")
	press(t, ctx, "[data-test=start]")
	says(t, ctx, "63 of 64 made")
	says(t, ctx, "What failed")
	says(t, ctx, "1 record: the field")
	look(t, ctx, "batch-failed")
	_, err = s.Client.SaveRecord(context.Background(), 3, 2, 0, good.Data)
	require.NoError(t, err)
	press(t, ctx, "[data-test=retry]")
	says(t, ctx, "64 of 64 made")
	onlyHere(t, ctx, s)
}

// A file is read by the conventions that are chosen, and looked at again with each.
func TestImportConventions(t *testing.T) {
	s := start(t)
	ctx := browser(t)
	logIn(t, ctx, s)
	visit(t, ctx, s, "/records")
	upload(t, ctx, "fees.csv", "fee;day\n1.234;03/04/2026\n2.500;05/06/2026\n")
	says(t, ctx, "can be read in two ways")

	click(t, ctx, ".conventions .el-select__wrapper", "")
	click(t, ctx, ".el-select-dropdown__item", "comma: 1.234,50")
	says(t, ctx, "1234 · 2500")

	dates := func(notation string) {
		fill(t, ctx, "#import-dates", notation)
		do(t, ctx, chromedp.Evaluate[chromedp.Void]("document.querySelector('#import-dates').dispatchEvent(new Event('change'))"))
	}
	dates("DDth of May")
	says(t, ctx, "is no notation of dates")
	says(t, ctx, "1234 · 2500") // what was read before stays to be seen
	dates("DD/MM/YYYY")
	says(t, ctx, "2026-04-03 · 2026-06-05")

	press(t, ctx, "[data-test=import]")
	until(t, ctx, "[...document.querySelectorAll('.field')].some(f => f.innerText === '1234')") // no other set has that
	r, err := s.Client.Record(context.Background(), 4, 1)
	require.NoError(t, err)
	assert.JSONEq(t, `{"fee":"1234","day":"2026-04-03"}`, string(r.Data))
	onlyHere(t, ctx, s)
}

// TestLookingUp is the way of the person who looks an old document up.
func TestLookingUp(t *testing.T) {
	s := start(t)
	_, err := s.Client.AddSeries(context.Background(), client.Series{Name: "invoices", Pattern: "N-{number:3}", Next: 1})
	require.NoError(t, err)
	made, err := s.Client.Issue(context.Background(), client.Order{Template: "mooring-invoice", RecordSet: 3, Records: []int{1, 2, 3, 4, 5}, Series: "invoices"}, "")
	require.NoError(t, err)
	ctx := browser(t)
	logIn(t, ctx, s)
	visit(t, ctx, s, "/documents")
	until(t, ctx, "document.querySelectorAll('a.save').length === 5")
	do(t, ctx, chromedp.SendKeys(".search input", "N-004"))
	until(t, ctx, "document.querySelectorAll('a.save').length === 1")
	do(t, ctx, chromedp.Evaluate[chromedp.Void]("fetch(document.querySelector('a.save').href).then(r => r.text()).then(s => { window.saved = s.slice(0, 5) }); 0"))
	until(t, ctx, "window.saved")
	assert.Equal(t, "%PDF-", value[string](t, ctx, "window.saved"))
	do(t, ctx, chromedp.Evaluate[chromedp.Void]("document.querySelector('button.name').dispatchEvent(new MouseEvent('mouseenter'))"))
	until(t, ctx, "document.querySelector('.el-popover canvas')?.style.width === '240px'")
	look(t, ctx, "document-preview")
	press(t, ctx, "button.name")
	until(t, ctx, "document.querySelector('.panel canvas')")
	until(t, ctx, "document.querySelector('.panel a[href=\"/records?set=3&record=4\"]') && document.querySelector('.panel a[href=\"/templates/mooring-invoice\"]')")
	click(t, ctx, ".el-tabs__item", "Share")
	click(t, ctx, ".el-tab-pane .el-button", "Make a link")
	says(t, ctx, s.URL+"/s/")
	click(t, ctx, ".el-tabs__item", "History")
	says(t, ctx, "document.shared")
	press(t, ctx, "[data-test=void]")
	until(t, ctx, "document.querySelector('.el-message-box input')")
	do(t, ctx, chromedp.SendKeys(".el-message-box input", "wrong berth"))
	press(t, ctx, ".el-message-box__btns .el-button--primary")
	until(t, ctx, "!document.querySelector('[data-test=void]')")
	d, err := s.Client.Document(context.Background(), made[3].ID)
	require.NoError(t, err)
	assert.Equal(t, "void", d.State)

	// the ledger is checked; keys take people from place to place
	do(t, ctx, chromedp.Evaluate[chromedp.Void]("document.body.dispatchEvent(new KeyboardEvent('keydown', { key: '5', altKey: true, bubbles: true }))"))
	until(t, ctx, "location.pathname === '/ledger'")
	press(t, ctx, "[data-test=check]")
	says(t, ctx, "The ledger is sound: 6 rows")

	// settings: a person is added; the language changes
	visit(t, ctx, s, "/settings")
	until(t, ctx, "document.querySelector('form.line')")
	for label, text := range map[string]string{"Name": "Mara", "Email": "mara@harbour.example", "Password": "long enough"} {
		fill(t, ctx, "form.line input[aria-label="+label+"]", text)
	}
	click(t, ctx, "form.line button", "Add a person")
	says(t, ctx, "mara@harbour.example")
	press(t, ctx, "[data-test=me]")
	click(t, ctx, ".el-dropdown-menu__item", "Deutsch")
	says(t, ctx, "Einstellungen")
	press(t, ctx, "[data-test=me]")
	click(t, ctx, ".el-dropdown-menu__item", "Dunkel")
	until(t, ctx, "document.documentElement.classList.contains('dark')")
	onlyHere(t, ctx, s)
	press(t, ctx, "[data-test=me]")
	click(t, ctx, ".el-dropdown-menu__item", "Abmelden")
	until(t, ctx, "location.pathname === '/log-in'")
}

// TestScreenshots makes the pictures in docs/screenshots when it is asked to.
// TestKeeping is the way of the person who keeps the service: fonts for all
// templates, people, and why pages end where they do.
func TestKeeping(t *testing.T) {
	s := start(t)
	ctx := browser(t)
	logIn(t, ctx, s)

	// a font is added from the computer, listed, and taken away again
	visit(t, ctx, s, "/settings")
	click(t, ctx, ".el-tabs__item", "Fonts")
	says(t, ctx, "No fonts yet")
	file, err := filepath.Abs("../demo/templates/season-report/fonts/source-sans-3-latin-400-italic.woff2")
	require.NoError(t, err)
	do(t, ctx, chromedp.SetUploadFiles("input[type=file]", []string{file}))
	says(t, ctx, "Source Sans 3")
	says(t, ctx, "400 italic")
	list, err := s.Client.Fonts(context.Background(), client.Find{})
	require.NoError(t, err)
	require.Len(t, list.Items, 1)
	note := filepath.Join(t.TempDir(), "note.ttf")
	require.NoError(t, os.WriteFile(note, []byte("Dear harbour office"), 0o644))
	do(t, ctx, chromedp.SetUploadFiles("input[type=file]", []string{note}))
	says(t, ctx, "note.ttf: the font")
	click(t, ctx, ".el-table .textLink", "Withdraw")
	says(t, ctx, "No fonts yet")

	// a person is added, and may not log in any more
	click(t, ctx, ".el-tabs__item", "People")
	says(t, ctx, s.Email)
	fill(t, ctx, "input[aria-label=Name]", "Tove Lind")
	fill(t, ctx, "input[aria-label=Email]", "tove@harbour.example")
	fill(t, ctx, "input[aria-label=Password]", "ten ropes and more")
	click(t, ctx, "form .el-button", "Add a person")
	says(t, ctx, "tove@harbour.example")
	click(t, ctx, ".el-tabs__item", "Events")
	says(t, ctx, "person.added")
	says(t, ctx, "font.withdrawn")

	// the pages of a report tell why they end
	visit(t, ctx, s, "/templates/season-report")
	until(t, ctx, drawn)
	assert.Zero(t, value[int](t, ctx, "document.querySelectorAll('.ending').length"))
	press(t, ctx, "[data-test=breaks]")
	until(t, ctx, "document.querySelectorAll('.ending').length > 3")
	says(t, ctx, "a forced break before")
	onlyHere(t, ctx, s)
}

func TestScreenshots(t *testing.T) {
	dir := os.Getenv("OLIVE_SCREENSHOTS")
	if dir == "" {
		t.Skip("made by make screenshots")
	}
	s := start(t)
	bg := context.Background()
	_, err := s.Client.AddSeries(bg, client.Series{Name: "documents", Pattern: "D-{year}-{number:5}", Next: 1})
	require.NoError(t, err)
	_, err = s.Client.SaveRecord(bg, 3, 7, 0, []byte(`{"number":"QL-2026-0007"}`))
	require.NoError(t, err)
	b, err := s.Client.StartBatch(bg, client.BatchOrder{Template: "mooring-invoice", RecordSet: 3, Series: "documents"}, "")
	require.NoError(t, err)
	_, err = s.Client.Follow(bg, b.ID, func(client.Batch) {})
	require.NoError(t, err)
	_, err = s.Client.SetDocument(bg, 60, 0, "void", "wrong berth")
	require.NoError(t, err)
	ctx := browser(t)
	shot := func(name string) { capture(t, ctx, dir, name) }
	do(t, ctx, chromedp.EmulateViewport(1280, 800), chromedp.Navigate(s.URL+"/log-in"))
	until(t, ctx, "document.querySelector('#password')")
	logIn(t, ctx, s)
	time.Sleep(time.Second)
	shot("console-templates")
	visit(t, ctx, s, "/")
	until(t, ctx, "document.querySelector('figure svg')")
	shot("console-start")
	visit(t, ctx, s, "/templates/mooring-invoice")
	until(t, ctx, drawn)
	press(t, ctx, "[data-test=ask]")
	pointAt(t, ctx, 0.85, 0.075)
	until(t, ctx, "document.querySelectorAll('[data-test=box]').length === 4")
	shot("console-workbench")
	for _, place := range []string{"records", "batches?batch=1", "documents", "documents?document=3", "ledger"} {
		visit(t, ctx, s, "/"+place)
		until(t, ctx, "document.querySelectorAll('.el-table__row').length > 0")
		name := strings.NewReplacer("batches?batch=1", "batches", "documents?document=3", "document").Replace(place)
		if name == "document" {
			until(t, ctx, "document.querySelector('.panel canvas')")
			time.Sleep(time.Second)
		}
		if name == "records" {
			press(t, ctx, ".el-table__expand-icon")
			until(t, ctx, "document.querySelector('.lists caption')")
		}
		if name == "ledger" {
			press(t, ctx, "[data-test=check]")
			says(t, ctx, "The ledger is sound")
		}
		shot("console-" + name)
	}
	visit(t, ctx, s, "/templates/season-report")
	until(t, ctx, drawn)
	press(t, ctx, "[data-test=breaks]")
	do(t, ctx, chromedp.Evaluate[chromedp.Void]("document.querySelectorAll('[data-test=ending]')[4].scrollIntoView({ block: 'center' }); document.querySelectorAll('[data-test=ending]')[4].click()"))
	shot("console-breaks")
	if os.Getenv("OLIVE_LOOK") != "" { // more to look at, not for the documentation
		font, err := os.Open("../demo/templates/season-report/fonts/source-sans-3-latin-400-italic.woff2")
		require.NoError(t, err)
		defer font.Close()
		_, err = s.Client.AddFont(bg, "source-sans-3-latin-400-italic.woff2", font)
		require.NoError(t, err)
		visit(t, ctx, s, "/settings")
		click(t, ctx, ".el-tabs__item", "Fonts")
		look(t, ctx, "fonts")
		do(t, ctx, chromedp.Evaluate[chromedp.Void]("localStorage.setItem('olive.theme', 'dark'); localStorage.setItem('olive.language', 'de')"))
		visit(t, ctx, s, "/templates/season-report")
		until(t, ctx, drawn)
		look(t, ctx, "dark")
		visit(t, ctx, s, "/documents")
		look(t, ctx, "dark-documents")
		do(t, ctx, chromedp.EmulateViewport(390, 800))
		look(t, ctx, "narrow")
		visit(t, ctx, s, "/templates/mooring-invoice")
		until(t, ctx, drawn)
		look(t, ctx, "narrow-bench")
	}
	assert.False(t, strings.Contains(value[string](t, ctx, "document.body.innerText"), "undefined"))
}
