package store_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"oliveledger/internal/service/store"
)

// person keeps someone with an address.
func person(t *testing.T, st *store.Store, email, role string) *store.Person {
	t.Helper()
	p := &store.Person{Email: email, Name: email, Role: role, Password: "hash"}
	require.NoError(t, st.AddPerson(p))
	return p
}

// session logs someone in; its token is the name in 64 letters.
func session(t *testing.T, st *store.Store, p *store.Person, name string, ends time.Duration) store.Session {
	t.Helper()
	x := store.Session{Token: name + strings.Repeat("0", 64-len(name)), PersonID: p.ID, ExpiresAt: time.Now().Add(ends), CreatedAt: time.Now()}
	require.NoError(t, st.AddSession(&x))
	return x
}

func TestPeople(t *testing.T) {
	st := open(t)
	ida, jon := person(t, st, "ida@harbour.test", "keeper"), person(t, st, "jon@harbour.test", "reader")
	assert.Equal(t, 1, ida.Revision)
	n, err := st.Keepers()
	require.NoError(t, err)
	assert.Equal(t, int64(1), n, "the reader is none")
	require.ErrorIs(t, st.AddPerson(&store.Person{Email: "ida@harbour.test"}), store.ErrTaken)

	again, err := st.PersonByEmail("jon@harbour.test")
	require.NoError(t, err)
	assert.Equal(t, jon.ID, again.ID)
	_, err = st.PersonByEmail("nobody@harbour.test")
	require.ErrorIs(t, err, store.ErrNotFound)

	again.Role = "keeper"
	require.ErrorIs(t, st.SavePerson(&again, 7, false), store.ErrChanged)
	require.NoError(t, st.SavePerson(&again, 1, false))
	assert.Equal(t, 2, again.Revision)
	n, _ = st.Keepers()
	assert.Equal(t, int64(2), n)
	again.Disabled = true
	require.NoError(t, st.SavePerson(&again, 0, false), "0 does not ask what was read")
	n, _ = st.Keepers()
	assert.Equal(t, int64(1), n, "who may not log in keeps nothing")

	list, total, err := st.People(store.Page{Limit: 1, Sort: "-email"})
	require.NoError(t, err)
	assert.Equal(t, int64(2), total)
	require.Len(t, list, 1)
	assert.Equal(t, "jon@harbour.test", list[0].Email)
}

func TestSessions(t *testing.T) {
	st := open(t)
	ida, jon := person(t, st, "ida@harbour.test", "keeper"), person(t, st, "jon@harbour.test", "maker")
	session(t, st, ida, "ended", -time.Minute)
	desk, phone := session(t, st, ida, "desk", time.Hour), session(t, st, ida, "phone", time.Hour)
	other := session(t, st, jon, "other", time.Hour)

	who, err := st.PersonBySession(desk.Token)
	require.NoError(t, err)
	assert.Equal(t, ida.ID, who.ID)
	_, err = st.PersonBySession("ended" + strings.Repeat("0", 59))
	require.ErrorIs(t, err, store.ErrNotFound)
	list, err := st.Sessions(ida.ID)
	require.NoError(t, err)
	assert.Len(t, list, 2, "those that have ended are none")

	require.ErrorIs(t, st.EndSessionNamed(jon.ID, phone.Name()), store.ErrNotFound, "it is not his")
	require.NoError(t, st.EndSessionNamed(ida.ID, phone.Name()))
	_, err = st.PersonBySession(phone.Token)
	require.ErrorIs(t, err, store.ErrNotFound)

	phone = session(t, st, ida, "phone", time.Hour)
	require.NoError(t, st.ChangePassword(ida.ID, "another", desk.Token))
	_, err = st.PersonBySession(phone.Token)
	require.ErrorIs(t, err, store.ErrNotFound, "the others have to log in anew")
	who, err = st.PersonBySession(desk.Token)
	require.NoError(t, err)
	assert.Equal(t, "another", who.Password)
	assert.Equal(t, 2, who.Revision)
	_, err = st.PersonBySession(other.Token)
	require.NoError(t, err, "nothing of someone else")

	require.NoError(t, st.EndSession(desk.Token))
	_, err = st.PersonBySession(desk.Token)
	require.ErrorIs(t, err, store.ErrNotFound)

	for name, change := range map[string]func() error{
		"a new password": func() error { return st.SavePerson(jon, 0, true) },
		"may not log in": func() error { jon.Disabled = true; return st.SavePerson(jon, 0, false) },
	} {
		x := session(t, st, jon, strings.ReplaceAll(name, " ", ""), time.Hour)
		require.NoError(t, change(), name)
		_, err = st.PersonBySession(x.Token)
		require.ErrorIs(t, err, store.ErrNotFound, name)
		list, err := st.Sessions(jon.ID)
		require.NoError(t, err)
		assert.Empty(t, list, name)
	}
	jon.Disabled = false
	require.NoError(t, st.SavePerson(jon, 0, false))
	x := session(t, st, jon, "stays", time.Hour)
	jon.Name = "Jon"
	require.NoError(t, st.SavePerson(jon, 0, false))
	_, err = st.PersonBySession(x.Token)
	require.NoError(t, err, "another name ends nothing")
}

func TestKeys(t *testing.T) {
	st := open(t)
	ida := person(t, st, "ida@harbour.test", "keeper")
	past, next := time.Now().Add(-time.Hour), time.Now().Add(time.Hour)
	for _, k := range []store.Key{
		{Name: "a", Hash: "a", Author: "ida@harbour.test"}, {Name: "b", Hash: "b", ExpiresAt: &past, PersonID: 7}, {Name: "c", Hash: "c", ExpiresAt: &next, Author: "gone@harbour.test"},
	} {
		require.NoError(t, st.AddKey(&k))
	}
	a, err := st.KeyByHash("a")
	require.NoError(t, err)
	_, err = st.KeyByHash("b")
	require.ErrorIs(t, err, store.ErrNotFound, "it has ended")
	c, err := st.KeyByHash("c")
	require.NoError(t, err)

	behind := func(k store.Key) uint64 { id, err := st.PersonBehind(k); require.NoError(t, err); return id }
	assert.Equal(t, ida.ID, behind(a), "by the address")
	assert.Zero(t, behind(c))
	assert.Equal(t, uint64(7), behind(store.Key{PersonID: 7}))

	gone, err := st.RevokeKey(a.ID)
	require.NoError(t, err)
	assert.True(t, gone.Revoked)
	_, err = st.KeyByHash("a")
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = st.RevokeKey(99)
	require.ErrorIs(t, err, store.ErrNotFound)
	list, total, err := st.Keys(store.Page{Limit: 10})
	require.NoError(t, err)
	assert.Equal(t, int64(3), total)
	assert.Equal(t, "c", list[0].Name, "the newest first")
}

// TestGrants: who may design or issue may set pages, too; keys were made before that was told apart.
func TestGrants(t *testing.T) {
	for scopes, want := range map[string][]string{
		"read": {"read"}, "read issue": {"read", "issue", "render"}, "design": {"design", "render"}, "render issue": {"render", "issue"}, "": {},
	} {
		assert.Equal(t, want, store.Key{Scopes: scopes}.Grants(), scopes)
	}
}
