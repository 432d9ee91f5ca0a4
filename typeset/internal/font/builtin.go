package font

import (
	"embed"
	"sync"

	gtfont "github.com/go-text/typesetting/font"

	"oliveledger/typeset/internal/packed"
)

// The faces that come with the binary, as their makers give them.
//
//go:embed faces/*.zst
var faceFiles embed.FS

// builtins are the families that come with the binary, which all documents share.
var builtins = sync.OnceValue(func() map[string][]*Source {
	return map[string][]*Source{
		"liberation sans":  four("Liberation Sans", "LiberationSans-Regular", "LiberationSans-Bold", "LiberationSans-Italic", "LiberationSans-BoldItalic"),
		"liberation serif": four("Liberation Serif", "LiberationSerif-Regular", "LiberationSerif-Bold", "LiberationSerif-Italic", "LiberationSerif-BoldItalic"),
		"liberation mono":  four("Liberation Mono", "LiberationMono-Regular", "LiberationMono-Bold", "LiberationMono-Italic", "LiberationMono-BoldItalic"),
		"dejavu sans":      four("DejaVu Sans", "DejaVuSans", "DejaVuSans-Bold", "DejaVuSans-Oblique", "DejaVuSans-BoldOblique"),
		"dejavu serif":     four("DejaVu Serif", "DejaVuSerif", "DejaVuSerif-Bold", "DejaVuSerif-Italic", "DejaVuSerif-BoldItalic"),
		"dejavu sans mono": four("DejaVu Sans Mono", "DejaVuSansMono", "DejaVuSansMono-Bold", "DejaVuSansMono-Oblique", "DejaVuSansMono-BoldOblique"),
	}
})

// four makes a family of the names of its files.
func four(family, regular, bold, italic, boldItalic string) []*Source {
	return []*Source{builtin(family, 400, false, regular), builtin(family, 700, false, bold), builtin(family, 400, true, italic), builtin(family, 700, true, boldItalic)}
}

func builtin(family string, weight float64, italic bool, file string) *Source {
	return &Source{
		Family: family, WeightMin: weight, WeightMax: weight, StretchMin: 100, StretchMax: 100, Italic: italic,
		Open: func([]gtfont.Variation) (*Face, error) {
			data, err := packed.Read(faceFiles, "faces/"+file+".ttf")
			if err != nil {
				return nil, err
			}
			return Parse(data, nil)
		},
	}
}
