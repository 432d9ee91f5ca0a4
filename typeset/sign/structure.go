package sign

import (
	"slices"

	"oliveledger/typeset/internal/pdfread"
)

// intoStructure puts a widget into the structure of a tagged file (§14.7.4.3): a Form element at the end of the
// document's. It gives the key of the widget in the parent tree, or false where the file has no structure.
func intoStructure(u *pdfread.Update, f *pdfread.File, widget, page pdfread.Ref) (key int64, tagged bool) {
	ref, isRef := f.Dict(f.Trailer["Root"])["StructTreeRoot"].(pdfread.Ref)
	root := f.Dict(ref)
	if !isRef || root == nil {
		return 0, false
	}
	above, top := ref, clone(root)
	if only, ok := kids(f, root["K"]); ok && len(only) == 1 { // the document's element
		if r, ok := only[0].(pdfread.Ref); ok {
			above = r
		}
	}
	form := u.Alloc()
	u.SetObject(form, pdfread.Dict{
		"Type": pdfread.Name("StructElem"), "S": pdfread.Name("Form"), "P": above, "Pg": page, "Alt": pdfread.TextOf(hidden),
		"K": pdfread.Dict{"Type": pdfread.Name("OBJR"), "Obj": widget, "Pg": page},
	})
	tree := clone(f.Dict(root["ParentTree"]))
	key = nextKey(f, root, tree)
	entered(f, u, tree, key, form)
	top["ParentTree"], top["ParentTreeNextKey"] = tree, key+1
	if above == ref {
		top["K"] = appendedKid(f, root["K"], form)
	} else {
		e := clone(f.Dict(above))
		e["K"] = appendedKid(f, e["K"], form)
		u.SetObject(above, e)
	}
	u.SetObject(ref, top)
	return key, true
}

// hidden is what a field that is not seen says of itself.
const hidden = "Signature of the document"

// kids are those of an element; one alone may stand without a list (table 323).
func kids(f *pdfread.File, o pdfread.Object) (pdfread.Array, bool) {
	if list, ok := f.Resolve(o).(pdfread.Array); ok {
		return list, true
	}
	return pdfread.Array{o}, o != nil
}

func appendedKid(f *pdfread.File, o pdfread.Object, kid pdfread.Ref) pdfread.Array {
	list, _ := kids(f, o)
	return append(slices.Clone(list), kid)
}

// nextKey is the first key of the parent tree that is free.
func nextKey(f *pdfread.File, root, tree pdfread.Dict) int64 {
	next, _ := f.Resolve(root["ParentTreeNextKey"]).(int64)
	var look func(d pdfread.Dict, depth int)
	look = func(d pdfread.Dict, depth int) {
		nums, _ := f.Resolve(d["Nums"]).(pdfread.Array)
		for i := 0; i+1 < len(nums); i += 2 {
			if k, ok := f.Resolve(nums[i]).(int64); ok {
				next = max(next, k+1)
			}
		}
		list, _ := f.Resolve(d["Kids"]).(pdfread.Array)
		for _, k := range list {
			if depth < 20 {
				look(f.Dict(k), depth+1)
			}
		}
	}
	look(tree, 0)
	return next
}

// entered adds an entry at the end of a number tree (§7.9.7).
func entered(f *pdfread.File, u *pdfread.Update, tree pdfread.Dict, key int64, value pdfread.Ref) {
	list, nodes := f.Resolve(tree["Kids"]).(pdfread.Array)
	if !nodes {
		nums, _ := f.Resolve(tree["Nums"]).(pdfread.Array)
		tree["Nums"] = append(slices.Clone(nums), key, value)
		return
	}
	leaf := u.Alloc()
	u.SetObject(leaf, pdfread.Dict{"Limits": pdfread.Array{key, key}, "Nums": pdfread.Array{key, value}})
	tree["Kids"] = append(slices.Clone(list), leaf)
}
