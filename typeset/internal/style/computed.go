package style

import "oliveledger/typeset/internal/css"

// Sides of a box, in the order of CSS shorthands.
const (
	Top = iota
	Right
	Bottom
	Left
)

// Style is the computed style of a node. It does not change once computed,
// and nodes whose style comes out the same share one.
type Style struct {
	Inherited
	Own
	Vars *Vars // custom properties

	measured bool // depends on the fonts of the document
}

// Vars holds custom properties by name; it is shared by nodes that set none.
type Vars struct {
	vals map[string][]css.Token
	down *Vars // what children see, once it is known
}

// LineKind tells how LineHeight is given.
type LineKind uint8

const (
	LineNormal LineKind = iota
	LineNumber
	LineLength
)

// LineHeight is normal, a factor of the font size, or px.
type LineHeight struct {
	Kind LineKind
	V    float64
}

// Inherited holds the properties that children inherit.
type Inherited struct {
	Color                           Color
	Families                        []string
	FontSize                        float64 // px
	SizeAbsolute                    bool    // it is a length, or relative to one that is
	SizeKeyword                     int8    // that it was given by, as place in sizeKeywords from 1; 0 for a length
	FontWeight                      float64
	FontStyle                       FontStyle
	FontStretch                     float64 // percent
	FontCaps                        Keyword
	FontVariants                    [len(variantGroups)][]string // OpenType features that font-variant-* ask for
	FontFeatures                    []Feature
	FontVariations                  []Feature
	FontKerning                     Keyword
	SynthesisWeight, SynthesisStyle Keyword
	SynthesisCaps                   Keyword // auto or none: small capitals made of capitals
	FontPalette                     *FontPalette
	SizeAdjust                      SizeAdjust
	LineHeight                      LineHeight
	Lang                            string

	TextAlign, TextAlignLast, TextJustify Keyword
	TextIndent                            Indent
	TextTransform                         TextTransform
	LetterSpacing, WordSpacing            LP
	Collapse                              Keyword // white-space-collapse
	Wrap                                  Keyword // text-wrap-mode: wrap, nowrap
	WrapStyle                             Keyword
	HangingPunctuation                    HangingPunctuation
	TabSize                               LP // Px; Pct/100 is a count of spaces
	WordBreak, OverflowWrap, LineBreak    Keyword
	Hyphens                               Keyword
	HyphenChar                            string
	HyphenLimits                          [3]int // letters of a word, before and after a hyphen; 0 for auto
	Direction, WritingMode, Orientation   Keyword
	TextBoxEdge                           TextBoxEdge
	WordSpace                             string // word-space-transform: the space in the place of a zero-width one; empty for none
	Visibility                            Keyword
	ListType                              ListType
	ListPosition                          Keyword
	ListImage                             *Image
	Quotes                                *[]string // nil: auto
	BorderCollapse                        Keyword
	BorderSpacing                         [2]float64
	CaptionSide, EmptyCells               Keyword
	Orphans, Widows                       int
	TextShadow                            []Shadow
	SkipInk, UnderlinePosition            Keyword
	UnderlineOffset                       Size
	EmphasisMark                          string
	EmphasisColor                         Color
	TextFill, TextStrokeColor             Color
	TextStroke                            float64 // how wide the outline of letters is; 0 for none
	EmphasisAt                            EmphasisPlace
	RubyUnder                             bool // annotations stand below their base
	ImageRendering                        Keyword
	ImageOrientation                      Keyword
	PrintAdjust                           Keyword

	Fill, Stroke               Paint
	FillRule, ClipRule         Keyword
	FillOpacity, StrokeOpacity float64
	StrokeWidth                LP
	StrokeCap, StrokeJoin      Keyword
	StrokeMiter                float64
	StrokeDash                 []LP
	StrokeDashOffset           LP
	TextAnchor                 Keyword
	PaintOrder                 string    // fill, stroke and markers, the first underneath
	PointerMarkers             [3]string // marker-start, -mid, -end
}

// Indent is text-indent.
type Indent struct {
	LP
	Hanging, EachLine bool
}

// WillChange is what will-change makes of a box beforehand: a stacking context, and the
// containing block of positioned boxes, or of fixed ones too (CSS Will Change 1, §3).
type WillChange struct{ Stack, Hold, HoldFixed bool }

// FontStyle is font-style: normal, italic or oblique, and how far letters lean where
// the font has none that do, in degrees.
type FontStyle struct {
	Kind  Keyword
	Angle float64
}

// HangingPunctuation tells which characters may hang at line ends.
type HangingPunctuation struct{ First, Last, Force, Allow bool }

// TextTransform is text-transform.
type TextTransform struct {
	Case      Keyword // none, capitalize, uppercase, lowercase
	FullWidth bool
}

// Feature is an OpenType feature or a variation axis.
type Feature struct {
	Tag   string
	Value float64
}

// ListType is list-style-type: a counter style by name, a string, or none.
type ListType struct {
	Name   string
	Text   string
	IsText bool
	Anon   *CounterStyle // symbols()
}

// Paint is an SVG fill or stroke.
type Paint struct {
	None    bool
	Color   Color
	URL     string // of a gradient or pattern; Color is the fallback
	Context Keyword
}

// Border is one side of a border.
type Border struct {
	Width float64
	Style Keyword
	Color Color
}

// Shadow is one shadow of a box or of text.
type Shadow struct {
	X, Y, Blur, Spread float64
	Color              Color
	Inset              bool
}

// Own holds the properties that children do not inherit.
type Own struct {
	Display                      Display
	Position, Float, Clear       Keyword
	Width, Height                Size
	MinWidth, MinHeight          Size
	MaxWidth, MaxHeight          Size
	Margin                       [4]Size
	InitialLetter                InitialLetter
	MarginTrim                   [4]bool // by flow: Top is block-start, Left inline-start
	Padding                      [4]LP
	Border                       [4]Border
	Radius                       [4][2]LP // top left, clockwise
	Inset                        [4]Size
	BoxSizing                    Keyword
	AspectRatio                  AspectRatio
	OverflowX, OverflowY         Keyword
	OverflowClipMargin           ClipMargin
	ScrollMarkers                Keyword
	ZIndex                       ZIndex
	Opacity                      float64
	Background                   Background
	BackgroundColor              Color
	BoxShadow                    []Shadow
	BorderImage                  *BorderImage
	Outline                      Border
	StringSet                    []NamedContent
	Adds                         []NamedContent // to running sums
	Running                      string         // the name, where Position is Running
	BookmarkLevel                int            // 0 for none
	BookmarkLabel                []ContentItem
	BookmarkState                Keyword
	Pages                        Keyword // -olive-pages of the root element
	Fit                          float64 // the least scale of -olive-fit: shrink; 0 for auto, NoFit for none
	FootnoteDisplay              Keyword
	FootnotePolicy               Keyword // what goes on with a note that does not fit
	ShowIn                       Keyword // which parts of a table have a row
	OutlineOffset                float64
	VerticalAlign                VerticalAlign
	Decoration                   Decoration
	UnicodeBidi                  Keyword
	TextOverflow                 TextOverflow
	TextBoxTrim                  TextBoxTrim
	MaxLines                     int    // 0: none
	BlockEllipsis                string // empty: none
	Continue                     Keyword
	BoxOrient                    Keyword
	TableLayout                  Keyword
	Content                      Content
	CounterReset, CounterSet     []CounterOp
	CounterIncrement             []CounterOp
	BreakBefore, BreakAfter      Keyword
	BreakInside                  Keyword
	BoxDecorationBreak           Keyword
	Page                         string
	ObjectFit                    Keyword
	ObjectViewBox                *ClipPath // an inset, or nil
	ObjectPosition               Place
	Transform                    []TransformOp
	TransformOrigin              [3]LP
	Translate, Rotate, Scale     []TransformOp
	TransformBox                 Keyword
	ClipPath                     *ClipPath
	Clip                         *[4]Size
	Mask                         Background // its layers are those of mask-image
	MaskMode                     Keyword
	BlendMode                    Keyword
	Isolation                    Keyword
	WillChange                   WillChange
	Contain                      Containment
	Container                    Keyword
	ContainerNames               []string
	ContentVisibility            Keyword
	IntrinsicSize                [2]float64 // of a box whose size is contained
	Filters                      []Filter
	FlexDirection, FlexWrap      Keyword
	FlexGrow, FlexShrink         float64
	FlexBasis                    Size
	Order                        int
	AlignContent, JustifyContent Align
	AlignItems, JustifyItems     Align
	AlignSelf, JustifySelf       Align
	RowGap, ColumnGap            Size // None kind: normal
	GridColumns, GridRows        TrackList
	GridAutoColumns              []Track
	GridAutoRows                 []Track
	GridAreas                    [][]string
	GridAutoFlow                 Keyword // row, column
	GridDense                    bool
	GridPlace                    [4]GridLine // row-start, column-start, row-end, column-end
	ColumnCount                  int         // 0: auto
	ColumnWidth                  Size
	ColumnHeight                 Size // of a row of columns
	ColumnWrap                   Keyword
	ColumnFill, ColumnSpan       Keyword
	ColumnRule                   Border
	Appearance                   Keyword
	StopColor                    Color
	StopOpacity                  float64
	ShapeOutside                 *ClipPath
	ShapeMargin                  LP
	BaselineShift                float64 // px upwards
	DominantBaseline             Keyword
	VectorEffect                 Keyword
	MaskType                     Keyword
	SVG                          map[string]LP // geometry properties: x, y, r, rx, ry, cx, cy
	PageSize                     PageSize      // in a page context only
	PageOrientation              Keyword       // likewise
	Bleed                        Size          // in a page context only
	CropMarks, CrossMarks        bool
	WasInline                    bool // it was made a block by its position
}

// ZIndex is z-index.
type ZIndex struct {
	Auto bool
	V    int
}

// AspectRatio is width / height; 0 for none.
type AspectRatio struct {
	Ratio float64
	Auto  bool
}

// VerticalAlign is a keyword, or a length when Kind is Length.
type VerticalAlign struct {
	Kind Keyword
	LP
}

// ClipMargin is overflow-clip-margin: a box, and px beyond it.
type ClipMargin struct {
	Box Keyword // 0 stands for padding-box
	By  float64
}

// TextOverflow is text-overflow: clip, or a text that marks what is cut.
type TextOverflow struct {
	Kind Keyword // clip, ellipsis
	Text string
}

// Decoration is text-decoration on the element that draws it.
type Decoration struct {
	Underline, Overline, Through bool
	Style                        Keyword
	Color                        Color
	Thickness                    Size
}

// Lines tells whether any line is drawn.
func (d Decoration) Lines() bool { return d.Underline || d.Overline || d.Through }

// Display is the computed display type.
type Display struct {
	Outer    Keyword // Block, Inline, None, Contents, or a table-internal keyword
	Inner    Keyword // Flow, FlowRoot, Table, Flex, Grid, Ruby
	ListItem bool
}

// CounterOp is one entry of counter-reset, counter-set or counter-increment.
type CounterOp struct {
	Name     string
	Value    int
	HasValue bool
	Reversed bool // counter-reset only
}

// ContentKind tells what an item of content is.
type ContentKind uint8

const (
	ContentText ContentKind = iota
	ContentCounter
	ContentCounters
	ContentAttr
	ContentImage
	ContentQuote         // Text is open-quote, close-quote, no-open-quote or no-close-quote
	ContentContents      // Text says of what: text, before, after or first-letter
	ContentString        // of string-set; Which picks among those of a page
	ContentElement       // a running element; Which picks among those of a page
	ContentLeader        // Text is repeated
	ContentTargetCounter // Target leads to the element; Text is the counter
	ContentTargetCounters
	ContentSum        // Text is the name, Which the part of it, Separator the pattern of the number
	ContentTargetText // Text as for ContentContents
)

// ContentItem is one item of the content property.
type ContentItem struct {
	Kind      ContentKind
	Text      string // text, counter or attribute name
	Separator string
	Style     ListType
	Image     *Image
	Which     Keyword // First, Start, Last or FirstExcept
	Target    *ContentItem
}

// NamedContent is one entry of string-set.
type NamedContent struct {
	Name  string
	Items []ContentItem
}

// Content is the content property.
type Content struct {
	Kind  Keyword // Normal, None, or List
	Items []ContentItem
}

// Place is a position: x and y with percentages as in background-position.
type Place struct{ X, Y LP }

// Align is a value of the alignment properties.
type Align struct {
	Kind   Keyword // normal, auto, stretch, start, end, center, baseline, …
	Last   bool    // last baseline
	Safe   bool
	Unsafe bool
	Legacy bool
}

// Transformed tells whether the box is moved, turned or scaled after layout.
func (s *Style) Transformed() bool {
	return len(s.Transform) > 0 || len(s.Translate) > 0 || len(s.Rotate) > 0 || len(s.Scale) > 0
}

// Slants tells whether upright letters may be slanted where the family has no slanted ones
// (CSS Fonts 4, §9.3).
func (s *Style) Slants() bool {
	return s.SynthesisStyle == Auto || s.SynthesisStyle == ObliqueOnly && s.FontStyle.Kind == Oblique
}

// Multicol tells whether the box sets its contents in columns (Multi-column 2, §2).
func (s *Style) Multicol() bool {
	return s.ColumnCount > 0 || s.ColumnWidth.Kind == Length || s.ColumnHeight.Kind == Length
}

// HasBackground tells whether the style has a background colour or image.
func (s *Style) HasBackground() bool {
	return s.BackgroundColor.A > 0 || s.BackgroundColor.Space == Current || len(s.Background.Images) > 0 && s.Background.Images[0] != nil
}

// PaintsWhole tells whether the box and all in it are painted as one, whatever
// its position.
func (s *Style) PaintsWhole() bool {
	return s.Opacity < 1 || s.Transformed() || s.ClipPath != nil || s.BlendMode != Normal || s.Isolation == Isolate || s.WillChange.Stack || len(s.Filters) > 0 || s.Contain.Any() || s.Masked()
}

// vertical tells whether lines run down the page.
func (k Keyword) Vertical() bool {
	return k == VerticalRl || k == VerticalLr || k == SidewaysRl || k == SidewaysLr
}

func initialStyle() *Style {
	auto := Size{Kind: Auto}
	none := Size{Kind: None}
	s := &Style{}
	s.Color = Black
	s.Families = []string{"serif"}
	s.FontSize, s.FontWeight, s.FontStyle, s.FontStretch = 16, 400, FontStyle{Kind: Normal}, 100
	s.SizeKeyword = mediumSize
	s.FontCaps, s.FontKerning = Normal, Auto
	s.SynthesisWeight, s.SynthesisStyle, s.SynthesisCaps = Auto, Auto, Auto
	s.TextAlign, s.TextAlignLast, s.TextJustify = Start, Auto, Auto
	s.TextTransform.Case = None
	s.Collapse, s.Wrap, s.WrapStyle = CollapseSpace, WrapText, Auto
	s.TabSize = LP{Pct: 800}
	s.WordBreak, s.OverflowWrap, s.LineBreak, s.Hyphens = Normal, Normal, Auto, Manual
	s.Direction, s.WritingMode, s.Orientation = Ltr, HorizontalTb, Mixed
	s.Visibility = Visible
	s.ListType, s.ListPosition = ListType{Name: "disc"}, Outside
	s.BorderCollapse, s.CaptionSide, s.EmptyCells = Separate, TopSide, Show
	s.Orphans, s.Widows = 2, 2
	s.SkipInk, s.UnderlinePosition, s.UnderlineOffset = Auto, Auto, auto
	s.EmphasisColor, s.TextFill, s.TextStrokeColor = currentCol, currentCol, currentCol
	s.ImageRendering, s.ImageOrientation, s.PrintAdjust = Auto, FromImage, Economy
	s.Fill = Paint{Color: Black}
	s.Stroke = Paint{None: true}
	s.FillRule, s.ClipRule = Nonzero, Nonzero
	s.FillOpacity, s.StrokeOpacity, s.StrokeWidth = 1, 1, LP{Px: 1}
	s.StrokeCap, s.StrokeJoin, s.StrokeMiter = Butt, Miter, 4
	s.TextAnchor, s.PaintOrder = Start, "fill stroke markers"

	s.Display = Display{Outer: Inline, Inner: Flow}
	s.Position, s.Float, s.Clear = Static, None, None
	s.Width, s.Height, s.MinWidth, s.MinHeight, s.MaxWidth, s.MaxHeight = auto, auto, auto, auto, none, none
	for i := range 4 {
		s.Margin[i] = Size{Kind: Length}
		s.Border[i] = Border{Width: 3, Style: None, Color: currentCol}
		s.Inset[i] = auto
	}
	s.BoxSizing = ContentBox
	s.OverflowX, s.OverflowY = Visible, Visible
	s.ZIndex.Auto, s.Opacity = true, 1
	s.Background = Background{
		Images: []*Image{nil}, Attachment: []Keyword{Scroll}, Clip: []Keyword{BorderBox}, Origin: []Keyword{PaddingBox},
		Repeat: [][2]Keyword{{Repeat, Repeat}}, Size: []BackgroundSize{{Kind: Auto, W: auto, H: auto}}, Position: []Place{{}}, Blend: []Keyword{Normal},
	}
	s.Mask = s.Background
	s.Mask.Origin, s.MaskMode = []Keyword{BorderBox}, MatchSource
	s.Bleed = auto
	s.BookmarkState, s.ShowIn, s.FootnoteDisplay, s.FootnotePolicy, s.PageOrientation = Open, All, Block, Auto, Upright
	s.Outline = Border{Width: 3, Style: None, Color: currentCol}
	s.VerticalAlign.Kind = Baseline
	s.Decoration = Decoration{Style: Solid, Color: currentCol, Thickness: auto}
	s.UnicodeBidi, s.TextOverflow.Kind, s.TableLayout = Normal, ClipText, Auto
	s.Continue, s.BoxOrient = Auto, Horizontal
	s.Container, s.ContentVisibility = Normal, Visible
	s.Content.Kind = Normal
	s.BreakBefore, s.BreakAfter, s.BreakInside, s.BoxDecorationBreak = Auto, Auto, Auto, Slice
	s.ObjectFit, s.ObjectPosition = Fill, Place{LP{Pct: 50}, LP{Pct: 50}}
	s.TransformOrigin, s.TransformBox = [3]LP{{Pct: 50}, {Pct: 50}, {}}, ViewBox
	s.BlendMode, s.Isolation = Normal, Auto
	s.FlexDirection, s.FlexWrap, s.FlexShrink, s.FlexBasis = Row, Nowrap, 1, auto
	normal := Align{Kind: Normal}
	s.AlignContent, s.JustifyContent, s.AlignItems = normal, normal, normal
	s.JustifyItems = Align{Kind: Legacy}
	s.AlignSelf, s.JustifySelf = Align{Kind: Auto}, Align{Kind: Auto}
	s.RowGap, s.ColumnGap = Size{Kind: Normal}, Size{Kind: Normal}
	s.GridAutoColumns, s.GridAutoRows = []Track{{Min: auto, Max: auto}}, []Track{{Min: auto, Max: auto}}
	s.GridAutoFlow = Row
	for i := range s.GridPlace {
		s.GridPlace[i] = GridLine{Auto: true}
	}
	s.ColumnWidth, s.ColumnHeight, s.ColumnWrap, s.ColumnFill, s.ColumnSpan = auto, auto, Auto, Balance, None
	s.ColumnRule = Border{Width: 3, Style: None, Color: currentCol}
	s.Appearance, s.ScrollMarkers = None, None
	s.StopColor, s.StopOpacity = Black, 1
	s.DominantBaseline, s.VectorEffect, s.MaskType = Auto, None, Luminance
	return s
}

var initial = initialStyle()
