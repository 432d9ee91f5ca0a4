package api

import (
	"io/fs"
	"net/http"

	"github.com/labstack/echo/v5"

	"oliveledger/internal/service/store"
	"oliveledger/merge/starter"
)

// Starter is a template to begin with.
type Starter struct {
	Name  string               `json:"name"`            // of the starter
	What  string               `json:"what"`            // it is for
	Files map[string]FileInput `json:"files,omitempty"` // of one that is asked for alone
}

func (a *API) listStarters(c *echo.Context) error {
	out := List[Starter]{Items: []Starter{}}
	for _, s := range starter.Names {
		out.Items = append(out.Items, Starter{Name: s.Name, What: s.What})
	}
	out.Total = int64(len(out.Items))
	return c.JSON(http.StatusOK, out)
}

func (a *API) getStarter(c *echo.Context) error {
	for _, s := range starter.Names {
		if s.Name != c.Param("name") {
			continue
		}
		out := Starter{s.Name, s.What, map[string]FileInput{}}
		folder, err := starter.Files(s.Name)
		if err != nil {
			return err
		}
		err = fs.WalkDir(folder, ".", func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() {
				return err
			}
			data, err := fs.ReadFile(folder, path)
			out.Files[path] = fileInput(path, data)
			return err
		})
		if err != nil {
			return err
		}
		return c.JSON(http.StatusOK, out)
	}
	return store.ErrNotFound
}
