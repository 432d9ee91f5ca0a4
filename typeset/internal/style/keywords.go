package style

// Keyword is a CSS keyword. Properties share one set: the same word means the
// same constant wherever it stands.
type Keyword uint16

const (
	_ Keyword = iota
	AddMask
	Exclude
	Intersect
	Subtract
	XHeadCell
	XMozAvailable
	XMozFitContent
	XMozMaxContent
	XMozMinContent
	XMozPreWrap
	XWebkitBox
	XWebkitCenter
	XWebkitFillAvailable
	XWebkitFitContent
	XWebkitFlex
	XWebkitInlineBox
	XWebkitInlineFlex
	XWebkitLeft
	XWebkitLegacy
	XWebkitMatchParent
	XWebkitMaxContent
	XWebkitMinContent
	XWebkitRight
	Absolute
	After
	All
	AllPetiteCaps
	AlphaKey
	AllSmallCaps
	Alphabetic
	Alternate
	Always
	Anywhere
	Arcs
	Auto
	AutoFill
	AutoFit
	AutoPhrase
	Avoid
	AvoidColumn
	AvoidOrphans
	AvoidPage
	AvoidRegion
	Balance
	BalanceAll
	Baseline
	Before
	Bevel
	BidiOverride
	Blink
	Block
	BlockAxis
	Bold
	Bolder
	BorderArea
	BorderBox
	Both
	BottomSide
	BreakAll
	BreakSpaces
	BreakWord
	Brought
	Butt
	Button
	Capitalize
	Caption
	Carried
	Center
	Central
	Checkbox
	Circle
	ClipText
	Clone
	CloseQuote
	Closed
	ClosestCorner
	ClosestSide
	CollapseSpace
	ColorKey
	ColorBurn
	ColorDodge
	Column
	ColumnReverse
	Compact
	Condensed
	Contain
	ContentKey
	ContentBox
	Contents
	ContextFill
	ContextStroke
	Cover
	CrispEdges
	Crop
	Cross
	Darken
	Dashed
	Difference
	Discard
	Distribute
	Dot
	Dotted
	Double
	DoubleCircle
	Drop
	Economy
	Ellipse
	Ellipsis
	Embed
	End
	Evenodd
	Exact
	Exclusion
	Expanded
	ExtraCondensed
	ExtraExpanded
	FarthestCorner
	FarthestSide
	Fill
	FillBox
	Filled
	First
	FirstExcept
	FirstLetter
	FitContent
	FixedKey
	Flex
	FlexEnd
	FlexStart
	Flow
	FlowRoot
	Footnote
	FromFont
	FromImage
	Grid
	Groove
	Hanging
	HardLight
	Hidden
	Hide
	HighQuality
	Horizontal
	HorizontalTb
	Hue
	Icon
	Ideographic
	Inline
	InlineAxis
	InlineBlock
	InlineEnd
	InlineFlex
	InlineGrid
	InlineSize
	InlineStart
	InlineTable
	Inset
	Inside
	InterCharacter
	InterWord
	Invert
	Isolate
	IsolateOverride
	Italic
	Justify
	JustifyAll
	KeepAll
	Large
	Larger
	Last
	Layout
	LeftSide
	Legacy
	Lighten
	Lighter
	LineKey
	LineThrough
	Listbox
	Local
	Loose
	Lowercase
	Lr
	LrTb
	Ltr
	Luminance
	Luminosity
	Manual
	MarginBox
	Marker
	Markers
	MatchParent
	MatchSource
	Math
	MathAuto
	Mathematical
	MaxContent
	Medium
	Menu
	Menulist
	MenulistButton
	MessageBox
	Meter
	Middle
	MinContent
	Miter
	MiterClip
	Mixed
	Multiply
	NoClip
	NoCloseQuote
	NoOpenQuote
	NoRepeat
	NonScalingStroke
	None
	Nonzero
	Normal
	NotFirst
	NotLast
	Nowrap
	Oblique
	ObliqueOnly
	Open
	OpenQuote
	Outset
	Outside
	Over
	Overlay
	Overline
	PaddingBox
	PageKey
	PaintKey
	PetiteCaps
	Pixelated
	Plaintext
	Position
	Pre
	PreLine
	PreWrap
	Preserve
	PreserveBreaks
	PreserveSpaces
	Pretty
	ProgressBar
	Radio
	Raise
	Recto
	Region
	Relative
	Repeat
	RepeatX
	RepeatY
	Ridge
	RightSide
	Rl
	Round
	Row
	RowReverse
	Rtl
	Ruby
	RubyBase
	RubyText
	RunIn
	Running
	Safe
	Saturation
	ScaleDown
	Screen
	Scroll
	Searchfield
	SelfEnd
	SelfStart
	SemiCondensed
	SemiExpanded
	Separate
	Sesame
	Show
	Sideways
	SidewaysLr
	SidewaysRight
	SidewaysRl
	SizeKey
	Slice
	Small
	SmallCaps
	SmallCaption
	Smaller
	Smooth
	SoftLight
	Solid
	Space
	SpaceAround
	SpaceBetween
	SpaceEvenly
	Square
	Stable
	Start
	Static
	StatusBar
	Sticky
	Stretch
	Strict
	Stroke
	StrokeBox
	StyleKey
	Sub
	Super
	Table
	TableCaption
	TableCell
	TableColumn
	TableColumnGroup
	TableFooterGroup
	TableHeaderGroup
	TableRow
	TableRowGroup
	Tb
	TbRl
	TextKey
	TextAfterEdge
	TextBeforeEdge
	TextBottom
	TextTop
	Textarea
	Textfield
	Thick
	Thin
	TitlingCaps
	TopSide
	Triangle
	UltraCondensed
	UltraExpanded
	Under
	Underline
	Unicase
	Unsafe
	Uppercase
	Upright
	RotateLeft
	RotateRight
	Verso
	Vertical
	VerticalLr
	VerticalRl
	ViewBox
	Visible
	Wavy
	Weight
	WrapText
	WrapReverse
	XLarge
	XSmall
	XxLarge
	XxSmall
	XxxLarge
	// not written in CSS: the kinds of computed values
	Length
	List
	InsetShape
	PathShape
	URLShape
	BoxShape
	Polygon
)

var keywordNames = [...]string{
	AddMask:              "add",
	Exclude:              "exclude",
	Intersect:            "intersect",
	Subtract:             "subtract",
	XHeadCell:            "-x-head-cell",
	XMozAvailable:        "-moz-available",
	XMozFitContent:       "-moz-fit-content",
	XMozMaxContent:       "-moz-max-content",
	XMozMinContent:       "-moz-min-content",
	XMozPreWrap:          "-moz-pre-wrap",
	XWebkitBox:           "-webkit-box",
	XWebkitCenter:        "-webkit-center",
	XWebkitFillAvailable: "-webkit-fill-available",
	XWebkitFitContent:    "-webkit-fit-content",
	XWebkitFlex:          "-webkit-flex",
	XWebkitInlineBox:     "-webkit-inline-box",
	XWebkitInlineFlex:    "-webkit-inline-flex",
	XWebkitLeft:          "-webkit-left",
	XWebkitLegacy:        "-webkit-legacy",
	XWebkitMatchParent:   "-webkit-match-parent",
	XWebkitMaxContent:    "-webkit-max-content",
	XWebkitMinContent:    "-webkit-min-content",
	XWebkitRight:         "-webkit-right",
	Absolute:             "absolute",
	After:                "after",
	All:                  "all",
	AllPetiteCaps:        "all-petite-caps",
	AllSmallCaps:         "all-small-caps",
	AlphaKey:             "alpha",
	Alphabetic:           "alphabetic",
	Alternate:            "alternate",
	Always:               "always",
	Anywhere:             "anywhere",
	Arcs:                 "arcs",
	Auto:                 "auto",
	AutoFill:             "auto-fill",
	AutoFit:              "auto-fit",
	AutoPhrase:           "auto-phrase",
	Avoid:                "avoid",
	AvoidColumn:          "avoid-column",
	AvoidOrphans:         "avoid-orphans",
	AvoidPage:            "avoid-page",
	AvoidRegion:          "avoid-region",
	Balance:              "balance",
	BalanceAll:           "balance-all",
	Baseline:             "baseline",
	Before:               "before",
	Bevel:                "bevel",
	BidiOverride:         "bidi-override",
	Blink:                "blink",
	Block:                "block",
	BlockAxis:            "block-axis",
	Bold:                 "bold",
	Bolder:               "bolder",
	BorderArea:           "border-area",
	BorderBox:            "border-box",
	Both:                 "both",
	BottomSide:           "bottom",
	BreakAll:             "break-all",
	BreakSpaces:          "break-spaces",
	BreakWord:            "break-word",
	Brought:              "brought",
	Butt:                 "butt",
	Button:               "button",
	Capitalize:           "capitalize",
	Caption:              "caption",
	Carried:              "carried",
	Center:               "center",
	Central:              "central",
	Checkbox:             "checkbox",
	Circle:               "circle",
	ClipText:             "clip",
	Clone:                "clone",
	CloseQuote:           "close-quote",
	Closed:               "closed",
	ClosestCorner:        "closest-corner",
	ClosestSide:          "closest-side",
	CollapseSpace:        "collapse",
	ColorKey:             "color",
	ColorBurn:            "color-burn",
	ColorDodge:           "color-dodge",
	Column:               "column",
	ColumnReverse:        "column-reverse",
	Compact:              "compact",
	Condensed:            "condensed",
	Contain:              "contain",
	ContentKey:           "content",
	ContentBox:           "content-box",
	Contents:             "contents",
	ContextFill:          "context-fill",
	ContextStroke:        "context-stroke",
	Cover:                "cover",
	CrispEdges:           "crisp-edges",
	Crop:                 "crop",
	Cross:                "cross",
	Darken:               "darken",
	Dashed:               "dashed",
	Difference:           "difference",
	Discard:              "discard",
	Distribute:           "distribute",
	Dot:                  "dot",
	Dotted:               "dotted",
	Double:               "double",
	DoubleCircle:         "double-circle",
	Drop:                 "drop",
	Economy:              "economy",
	Ellipse:              "ellipse",
	Ellipsis:             "ellipsis",
	Embed:                "embed",
	End:                  "end",
	Evenodd:              "evenodd",
	Exact:                "exact",
	Exclusion:            "exclusion",
	Expanded:             "expanded",
	ExtraCondensed:       "extra-condensed",
	ExtraExpanded:        "extra-expanded",
	FarthestCorner:       "farthest-corner",
	FarthestSide:         "farthest-side",
	Fill:                 "fill",
	FillBox:              "fill-box",
	Filled:               "filled",
	First:                "first",
	FirstExcept:          "first-except",
	FirstLetter:          "first-letter",
	FitContent:           "fit-content",
	FixedKey:             "fixed",
	Flex:                 "flex",
	FlexEnd:              "flex-end",
	FlexStart:            "flex-start",
	Flow:                 "flow",
	FlowRoot:             "flow-root",
	Footnote:             "footnote",
	FromFont:             "from-font",
	FromImage:            "from-image",
	Grid:                 "grid",
	Groove:               "groove",
	Hanging:              "hanging",
	HardLight:            "hard-light",
	Hidden:               "hidden",
	Hide:                 "hide",
	HighQuality:          "high-quality",
	Horizontal:           "horizontal",
	HorizontalTb:         "horizontal-tb",
	Hue:                  "hue",
	Icon:                 "icon",
	Ideographic:          "ideographic",
	Inline:               "inline",
	InlineAxis:           "inline-axis",
	InlineBlock:          "inline-block",
	InlineEnd:            "inline-end",
	InlineFlex:           "inline-flex",
	InlineGrid:           "inline-grid",
	InlineSize:           "inline-size",
	InlineStart:          "inline-start",
	InlineTable:          "inline-table",
	Inset:                "inset",
	Inside:               "inside",
	InterCharacter:       "inter-character",
	InterWord:            "inter-word",
	Invert:               "invert",
	Isolate:              "isolate",
	IsolateOverride:      "isolate-override",
	Italic:               "italic",
	Justify:              "justify",
	JustifyAll:           "justify-all",
	KeepAll:              "keep-all",
	Large:                "large",
	Larger:               "larger",
	Last:                 "last",
	Layout:               "layout",
	LeftSide:             "left",
	Legacy:               "legacy",
	Lighten:              "lighten",
	Lighter:              "lighter",
	LineKey:              "line",
	LineThrough:          "line-through",
	Listbox:              "listbox",
	Local:                "local",
	Loose:                "loose",
	Lowercase:            "lowercase",
	Lr:                   "lr",
	LrTb:                 "lr-tb",
	Ltr:                  "ltr",
	Luminance:            "luminance",
	Luminosity:           "luminosity",
	Manual:               "manual",
	MarginBox:            "margin-box",
	Marker:               "marker",
	Markers:              "markers",
	MatchParent:          "match-parent",
	MatchSource:          "match-source",
	Math:                 "math",
	MathAuto:             "math-auto",
	Mathematical:         "mathematical",
	MaxContent:           "max-content",
	Medium:               "medium",
	Menu:                 "menu",
	Menulist:             "menulist",
	MenulistButton:       "menulist-button",
	MessageBox:           "message-box",
	Meter:                "meter",
	Middle:               "middle",
	MinContent:           "min-content",
	Miter:                "miter",
	MiterClip:            "miter-clip",
	Mixed:                "mixed",
	Multiply:             "multiply",
	NoClip:               "no-clip",
	NoCloseQuote:         "no-close-quote",
	NoOpenQuote:          "no-open-quote",
	NoRepeat:             "no-repeat",
	NonScalingStroke:     "non-scaling-stroke",
	None:                 "none",
	Nonzero:              "nonzero",
	Normal:               "normal",
	NotFirst:             "not-first",
	NotLast:              "not-last",
	Nowrap:               "nowrap",
	Oblique:              "oblique",
	ObliqueOnly:          "oblique-only",
	Open:                 "open",
	OpenQuote:            "open-quote",
	Outset:               "outset",
	Outside:              "outside",
	Over:                 "over",
	Overlay:              "overlay",
	Overline:             "overline",
	PaddingBox:           "padding-box",
	PageKey:              "page",
	PaintKey:             "paint",
	PetiteCaps:           "petite-caps",
	Pixelated:            "pixelated",
	Plaintext:            "plaintext",
	Position:             "position",
	Pre:                  "pre",
	PreLine:              "pre-line",
	PreWrap:              "pre-wrap",
	Preserve:             "preserve",
	PreserveBreaks:       "preserve-breaks",
	PreserveSpaces:       "preserve-spaces",
	Pretty:               "pretty",
	ProgressBar:          "progress-bar",
	Radio:                "radio",
	Raise:                "raise",
	Recto:                "recto",
	Region:               "region",
	Relative:             "relative",
	Repeat:               "repeat",
	RepeatX:              "repeat-x",
	RepeatY:              "repeat-y",
	Ridge:                "ridge",
	RightSide:            "right",
	Rl:                   "rl",
	Round:                "round",
	Row:                  "row",
	RowReverse:           "row-reverse",
	Rtl:                  "rtl",
	Ruby:                 "ruby",
	RubyBase:             "ruby-base",
	RubyText:             "ruby-text",
	RunIn:                "run-in",
	Running:              "running",
	Safe:                 "safe",
	Saturation:           "saturation",
	ScaleDown:            "scale-down",
	Screen:               "screen",
	Scroll:               "scroll",
	Searchfield:          "searchfield",
	SelfEnd:              "self-end",
	SelfStart:            "self-start",
	SemiCondensed:        "semi-condensed",
	SemiExpanded:         "semi-expanded",
	Separate:             "separate",
	Sesame:               "sesame",
	Show:                 "show",
	Sideways:             "sideways",
	SidewaysLr:           "sideways-lr",
	SidewaysRight:        "sideways-right",
	SidewaysRl:           "sideways-rl",
	SizeKey:              "size",
	Slice:                "slice",
	Small:                "small",
	SmallCaps:            "small-caps",
	SmallCaption:         "small-caption",
	Smaller:              "smaller",
	Smooth:               "smooth",
	SoftLight:            "soft-light",
	Solid:                "solid",
	Space:                "space",
	SpaceAround:          "space-around",
	SpaceBetween:         "space-between",
	SpaceEvenly:          "space-evenly",
	Square:               "square",
	Stable:               "stable",
	Start:                "start",
	Static:               "static",
	StatusBar:            "status-bar",
	Sticky:               "sticky",
	Stretch:              "stretch",
	Strict:               "strict",
	Stroke:               "stroke",
	StrokeBox:            "stroke-box",
	StyleKey:             "style",
	Sub:                  "sub",
	Super:                "super",
	Table:                "table",
	TableCaption:         "table-caption",
	TableCell:            "table-cell",
	TableColumn:          "table-column",
	TableColumnGroup:     "table-column-group",
	TableFooterGroup:     "table-footer-group",
	TableHeaderGroup:     "table-header-group",
	TableRow:             "table-row",
	TableRowGroup:        "table-row-group",
	Tb:                   "tb",
	TbRl:                 "tb-rl",
	TextKey:              "text",
	TextAfterEdge:        "text-after-edge",
	TextBeforeEdge:       "text-before-edge",
	TextBottom:           "text-bottom",
	TextTop:              "text-top",
	Textarea:             "textarea",
	Textfield:            "textfield",
	Thick:                "thick",
	Thin:                 "thin",
	TitlingCaps:          "titling-caps",
	TopSide:              "top",
	Triangle:             "triangle",
	UltraCondensed:       "ultra-condensed",
	UltraExpanded:        "ultra-expanded",
	Under:                "under",
	Underline:            "underline",
	Unicase:              "unicase",
	Unsafe:               "unsafe",
	Uppercase:            "uppercase",
	Upright:              "upright",
	RotateLeft:           "rotate-left",
	RotateRight:          "rotate-right",
	Verso:                "verso",
	Vertical:             "vertical",
	VerticalLr:           "vertical-lr",
	VerticalRl:           "vertical-rl",
	ViewBox:              "view-box",
	Visible:              "visible",
	Wavy:                 "wavy",
	Weight:               "weight",
	WrapText:             "wrap",
	WrapReverse:          "wrap-reverse",
	XLarge:               "x-large",
	XSmall:               "x-small",
	XxLarge:              "xx-large",
	XxSmall:              "xx-small",
	XxxLarge:             "xxx-large",
}

var keywordByName = func() map[string]Keyword {
	m := map[string]Keyword{}
	for k, n := range keywordNames {
		if n != "" {
			m[n] = Keyword(k)
		}
	}
	return m
}()

// keyword is the constant of a word that stands in a property's definition.
func keyword(name string) Keyword {
	k, ok := keywordByName[name]
	if !ok {
		panic("style: no keyword " + name)
	}
	return k
}

// String is the word as CSS writes it.
func (k Keyword) String() string {
	if int(k) < len(keywordNames) {
		return keywordNames[k]
	}
	return ""
}
