package store

import (
	"context"
	"fmt"
	"reflect"
	"strconv"

	"gorm.io/gorm/schema"
)

func init() { schema.RegisterSerializer("null", null{}) }

// null keeps what is empty or 0 as NULL, so that the database's rules pass over it: many documents
// have no number, and no two have the same.
type null struct{}

// Value is what is kept of a field.
func (null) Value(_ context.Context, _ *schema.Field, _ reflect.Value, v any) (any, error) {
	if reflect.ValueOf(v).IsZero() {
		return nil, nil
	}
	return v, nil
}

// Scan reads a field, a text or a number without sign.
func (null) Scan(ctx context.Context, f *schema.Field, row reflect.Value, from any) error {
	to := f.ReflectValueOf(ctx, row)
	text := ""
	switch v := from.(type) {
	case nil:
		to.SetZero()
		return nil
	case []byte:
		text = string(v)
	default:
		text = fmt.Sprint(v)
	}
	if to.Kind() == reflect.String {
		to.SetString(text)
		return nil
	}
	n, err := strconv.ParseUint(text, 10, 64)
	if err == nil {
		to.SetUint(n)
	}
	return err
}
