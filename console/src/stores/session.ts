import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { Caller } from '../api'
import { client, got, onLoggedOut } from '../api/client'

/** Who is logged in, and what they may do. */
export const useSession = defineStore('session', () => {
  const person = ref<Caller | null>(null)

  /** Asks who is logged in, unless the browser has no session at all. */
  async function load(): Promise<boolean> {
    if (!/(^|; )olive_here=/.test(window.document.cookie)) return false
    person.value = await got(client.GET('/session')).catch(() => null)
    return person.value !== null
  }
  async function logIn(email: string, password: string) {
    person.value = await got(client.POST('/session', { body: { email, password } }))
  }
  async function logOut() {
    await client.DELETE('/session')
    person.value = null
  }
  const may = (scope: string) => person.value?.scopes.includes(scope) ?? false

  onLoggedOut(() => {
    if (!person.value) return
    person.value = null
    window.location.assign('/log-in')
  })
  return { person, load, logIn, logOut, may }
})
