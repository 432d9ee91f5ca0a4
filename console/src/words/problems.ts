/**
 * What the service says when something cannot be done, in German, by what it says in English: as its source has that,
 * with %s, %d, %q and %v for what differs. {0}, {1} … stand for those here.
 */
export const problems: Record<string, string> = {
  // documents and the ledger
  'batch %d is %s; it cannot be %s': 'Stapel {0} ist {1}; er kann nicht {2} werden',
  'batch %d is cancelled': 'Stapel {0} ist abgebrochen',
  'another worker has taken the item over': 'ein anderer Prozess hat den Eintrag übernommen',
  'the ledger has no row %d to go on from': 'das Ausgabebuch hat keine Zeile {0}, von der es weiterginge',
  'document %d was erased on %s': 'Dokument {0} wurde am {1} gelöscht',
  'document %d is not held': 'Dokument {0} ist nicht gesperrt',
  'document %d must be kept': 'Dokument {0} muss aufbewahrt werden',
  'the series %s has given numbers up to %d; the next cannot be %d':
    'die Nummernreihe {0} hat Nummern bis {1} vergeben; die nächste kann nicht {2} sein',
  'there is no number series %q': 'es gibt keine Nummernreihe {0}',
  'a batch over this set has not ended; wait for it or cancel it first':
    'ein Stapel über diesen Bestand ist noch nicht zu Ende; warten Sie auf ihn oder brechen Sie ihn zuerst ab',
  'document %d is %s; only a draft can be approved': 'Dokument {0} ist {1}; nur ein Entwurf kann freigegeben werden',
  'document %d can only be approved by someone who is known; nobody is behind this key':
    'Dokument {0} kann nur freigeben, wer bekannt ist; hinter diesem Schlüssel steht niemand',
  'document %d was made by you, or through a key of yours; someone else must approve it':
    'Dokument {0} haben Sie selbst oder mit einem Ihrer Schlüssel erstellt; jemand anders muss es freigeben',
  'document %d is %s; only an approved one can be issued':
    'Dokument {0} ist {1}; nur ein freigegebenes kann ausgegeben werden',
  'document %d is void already': 'Dokument {0} ist schon für ungültig erklärt',
  'delivery %d is %s; only a failed one is tried again':
    'Zustellung {0} ist {1}; nur eine gescheiterte wird wiederholt',
  'the template asks for a signature, and this service has no key for it: it is started with --sign-with':
    'die Vorlage verlangt eine Unterschrift, der Dienst hat aber keinen Schlüssel: er bekommt ihn mit --sign-with',
  'document %d was erased: the record that it was made of is gone':
    'Dokument {0} wurde gelöscht: der Datensatz, aus dem es entstand, ist fort',
  'document %d was kept as long as it must be, and erased on %s; the ledger still has its row':
    'Dokument {0} wurde so lange wie nötig aufbewahrt und am {1} gelöscht; das Ausgabebuch hat seine Zeile noch',
  'a document that is %s does not go out; only issued ones do':
    'ein Dokument, das {0} ist, geht nicht hinaus; nur ausgegebene tun das',
  'nothing has been issued yet: the ledger has no signed head':
    'noch ist nichts ausgegeben: das Ausgabebuch hat keinen unterschriebenen Kopf',
  "the document's number belongs to another one already; whoever runs the service should verify the ledger":
    'die Nummer des Dokuments gehört schon einem anderen; wer den Dienst betreibt, sollte das Ausgabebuch prüfen',
  'a document can be made approved, issued or void, not %q':
    'ein Dokument wird freigegeben, ausgegeben oder für ungültig erklärt, nicht {0}',
  'say why %s: “reason”': 'sagen Sie, warum {0}: „reason“',
  'at most %d documents are sent together': 'höchstens {0} Dokumente gehen zusammen hinaus',

  // records, templates, fonts
  'the set has none of these records': 'der Bestand hat keinen dieser Datensätze',
  'only %d of the %d records that were named are in the set': 'nur {0} der {1} genannten Datensätze sind im Bestand',
  'the record is not a JSON object: %v': 'der Datensatz ist kein JSON-Objekt: {0}',
  'name 1 to %d records of the set in “records”; more of them are a batch':
    'nennen Sie 1 bis {0} Datensätze des Bestands; mehr davon sind ein Stapel',
  'the delimiter %q is more than one character': 'das Trennzeichen {0} ist mehr als ein Zeichen',
  'the lines: %v': 'die Positionen: {0}',
  'the font %s is there already': 'die Schrift {0} ist schon da',
  "a template's name has small letters, digits and hyphens, at most 100: %q does not do":
    'der Name einer Vorlage hat Kleinbuchstaben, Ziffern und Bindestriche, höchstens 100: {0} geht nicht',
  '%q is not a path inside a template': '{0} ist kein Pfad in einer Vorlage',
  'the body is not a ZIP file: %v': 'das ist keine ZIP-Datei: {0}',
  '%s does not unpack: %v': '{0} lässt sich nicht entpacken: {1}',
  "the template's files are larger than %d MiB together": 'die Dateien der Vorlage sind zusammen größer als {0} MiB',
  'a number series needs a name': 'eine Nummernreihe braucht einen Namen',
  '“date” is a day such as 2026-05-31, not %q': 'das Datum ist ein Tag wie 2026-05-31, nicht {0}',
  '%s %q is not a date such as 2026-11-23': '{0} {1} ist kein Datum wie 2026-11-23',

  // people, keys, log-in
  'a password has at least %d characters': 'ein Passwort hat mindestens {0} Zeichen',
  '%q is not an email address': '{0} ist keine E-Mail-Adresse',
  'an email address has at most %d characters': 'eine E-Mail-Adresse hat höchstens {0} Zeichen',
  'a person needs email, name, role and password': 'eine Person braucht E-Mail-Adresse, Namen, Rolle und Passwort',
  'a key needs a name, of at most 100 characters': 'ein Schlüssel braucht einen Namen mit höchstens 100 Zeichen',
  'a key with no scopes may do nothing; there are %s': 'ein Schlüssel ohne Rechte darf nichts; es gibt {0}',
  'a key ends after 1 to %d days, or never when “days” is left out':
    'ein Schlüssel endet nach 1 bis {0} Tagen, oder nie',
  'this is the last keeper; make someone else one first':
    'das ist die letzte Verwaltung; geben Sie die Rolle zuerst jemand anderem',
  'you cannot give the scope “%s”: you do not have it': 'Sie können das Recht „{0}“ nicht geben: Sie haben es nicht',
  'this needs the scope “%s”, which %s does not have': 'das braucht das Recht „{0}“, das {1} nicht hat',
  '%s is limited to the templates %s, and to documents of theirs':
    '{0} ist auf die Vorlagen {1} und deren Dokumente beschränkt',
  'this is for people who have logged in; a key has no account':
    'das ist für angemeldete Personen; ein Schlüssel hat kein Konto',
  'the email or the password is wrong': 'die E-Mail-Adresse oder das Passwort stimmt nicht',
  'email and password are needed': 'E-Mail-Adresse und Passwort fehlen',
  'too many failed tries; wait a moment': 'zu viele Fehlversuche; warten Sie einen Augenblick',
  'the key is not known, or has ended': 'der Schlüssel ist nicht bekannt oder abgelaufen',
  'log in first, or send a key as “Authorization: Bearer …”': 'melden Sie sich zuerst an',
  'the session has ended; log in again': 'die Sitzung ist zu Ende; melden Sie sich wieder an',
  'the sign-in took too long, or was begun in another browser; try again':
    'die Anmeldung hat zu lange gedauert oder wurde in einem anderen Browser begonnen; versuchen Sie es noch einmal',
  'the sign-in was begun in another window; try again':
    'die Anmeldung wurde in einem anderen Fenster begonnen; versuchen Sie es noch einmal',
  'what %s says of you is not for this sign-in; try again':
    'was {0} über Sie sagt, gilt nicht für diese Anmeldung; versuchen Sie es noch einmal',
  'what %s says of you cannot be trusted: %v': 'was {0} über Sie sagt, ist nicht verlässlich: {1}',
  '%s has not confirmed your email address': '{0} hat Ihre E-Mail-Adresse nicht bestätigt',
  '%s is not known here; ask a keeper': '{0} ist hier nicht bekannt; fragen Sie die Verwaltung',
  '%s does not take the sign-in: %v': '{0} nimmt die Anmeldung nicht an: {1}',
  'no provider is set up for sign-in': 'für die Anmeldung ist kein Anbieter eingerichtet',
  '%s does not answer as a provider of OpenID Connect: %v': '{0} antwortet nicht als Anbieter von OpenID Connect: {1}',

  // the service itself
  'there is one with this name already': 'es gibt schon etwas mit diesem Namen',
  'there is no such thing here': 'das gibt es hier nicht',
  'there is no such resource': 'das gibt es nicht',
  'the service is ending; ask again in a moment': 'der Dienst endet gerade; versuchen Sie es gleich noch einmal',
  'the service cannot keep anything at present: %v; make room, and ask again':
    'der Dienst kann zurzeit nichts aufbewahren: {0}; schaffen Sie Platz und versuchen Sie es noch einmal',
  "something went wrong in the service; its log tells more under the request's X-Request-Id":
    'im Dienst ist etwas schiefgegangen; mehr steht in seinem Protokoll',
  'the request is too large: at most %d MiB are taken as a file, %d MiB as JSON or a form, and %d KiB before log-in':
    'das ist zu groß: höchstens {0} MiB gehen als Datei, {1} MiB als JSON oder Formular, {2} KiB vor der Anmeldung',
  'the database does not answer': 'die Datenbank antwortet nicht',
  'nothing can be kept where documents are: %v': 'wo die Dokumente liegen, kann nichts aufbewahrt werden: {0}',
  'too many large requests at once; try again in a moment':
    'zu viele große Anfragen zugleich; versuchen Sie es gleich noch einmal',
  'you have too many requests waiting; try again in a moment':
    'von Ihnen warten zu viele Anfragen; versuchen Sie es gleich noch einmal',
  'too many requests at once; try again in a moment': 'zu viele Anfragen zugleich; versuchen Sie es gleich noch einmal',
  'this Idempotency-Key came with another body before': 'derselbe Auftrag kam schon mit anderem Inhalt',
  'the first request with this Idempotency-Key is still worked on': 'an demselben Auftrag wird noch gearbeitet',
  'changes with a session need the header %s': 'Änderungen gehen nur aus der Konsole',
  'If-Match %s is no ETag of this service': 'die Fassung {0} ist keine dieses Dienstes',
  'the console is not part of this build; run make build': 'die Konsole gehört nicht zu diesem Programm',
  'a list that is sorted by something else is paged by offset, not by the row before':
    'eine anders geordnete Liste wird nach der Stelle geblättert, nicht nach der Zeile davor',
}
