package store

import (
	"context"
	"fmt"
	"reflect"
	"strings"

	"gorm.io/gorm/schema"
)

func init() { schema.RegisterSerializer("spaced", spaced{}) }

// spaced keeps a list of names as one text with spaces between.
type spaced struct{}

// Value is what is kept of a field.
func (spaced) Value(_ context.Context, _ *schema.Field, _ reflect.Value, v any) (any, error) {
	list, ok := v.([]string)
	if !ok {
		return nil, fmt.Errorf("%T is no list of names", v)
	}
	return strings.Join(list, " "), nil
}

// Scan reads a field.
func (spaced) Scan(ctx context.Context, f *schema.Field, row reflect.Value, from any) error {
	text, ok := from.([]byte)
	if !ok {
		return fmt.Errorf("%T is no text", from)
	}
	f.ReflectValueOf(ctx, row).Set(reflect.ValueOf(strings.Fields(string(text))))
	return nil
}
