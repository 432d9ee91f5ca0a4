package public

import (
	"golang.org/x/text/language"
	"golang.org/x/text/message/catalog"
)

// texts are what the states of documents are told in.
var texts = map[State]struct{ title, head, text string }{
	Unknown: {"Not known", "No such document", "This code belongs to no document that was issued here. Look whether the address was typed as it is printed."},
	Genuine: {"Genuine document", "This document is genuine", "It was issued here and has not been withdrawn."},
	Void:    {"Void document", "This document is void", "It was issued here, but does not count any more."},
	Ended:   {"No document here", "There is no document here", ""},
}

// Reasons why a link leads nowhere.
const (
	LinkEnded    = "this link does not lead to a document, or has ended"
	DocumentVoid = "this document is void"
)

// languages are those that pages are written in; English is for all others.
var languages = []language.Tag{language.English, language.German, language.French, language.Spanish, language.Italian, language.Dutch}

var matcher = language.NewMatcher(languages)

// translated has the texts in the languages after English, in their order.
var translated = map[string][5]string{
	"%d %s %s":         {"%d. %s %s", "%d %s %s", "%d de %s de %s", "%d %s %s", "%d %s %s"},
	"Not known":        {"Nicht bekannt", "Inconnu", "Desconocido", "Sconosciuto", "Onbekend"},
	"No such document": {"Kein solches Dokument", "Document introuvable", "No existe tal documento", "Nessun documento con questo codice", "Geen document met deze code"},
	"This code belongs to no document that was issued here. Look whether the address was typed as it is printed.": {
		"Dieser Code gehört zu keinem Dokument, das hier ausgestellt wurde. Prüfen Sie, ob die Adresse so eingegeben ist, wie sie gedruckt steht.",
		"Ce code ne correspond à aucun document délivré ici. Vérifiez que l’adresse a été saisie telle qu’elle est imprimée.",
		"Este código no corresponde a ningún documento emitido aquí. Compruebe que la dirección se ha escrito tal como está impresa.",
		"Questo codice non corrisponde a nessun documento emesso qui. Controlli che l’indirizzo sia scritto come è stampato.",
		"Deze code hoort bij geen document dat hier is uitgegeven. Controleer of het adres is ingetypt zoals het gedrukt staat.",
	},
	"Genuine document":                               {"Echtes Dokument", "Document authentique", "Documento auténtico", "Documento autentico", "Echt document"},
	"This document is genuine":                       {"Dieses Dokument ist echt", "Ce document est authentique", "Este documento es auténtico", "Questo documento è autentico", "Dit document is echt"},
	"It was issued here and has not been withdrawn.": {"Es wurde hier ausgestellt und nicht zurückgezogen.", "Il a été délivré ici et n’a pas été retiré.", "Se emitió aquí y no se ha retirado.", "È stato emesso qui e non è stato ritirato.", "Het is hier uitgegeven en niet ingetrokken."},
	"Void document":                                  {"Ungültiges Dokument", "Document annulé", "Documento anulado", "Documento annullato", "Ongeldig document"},
	"This document is void":                          {"Dieses Dokument ist ungültig", "Ce document est annulé", "Este documento está anulado", "Questo documento è annullato", "Dit document is ongeldig"},
	"It was issued here, but does not count any more.": {
		"Es wurde hier ausgestellt, gilt aber nicht mehr.", "Il a été délivré ici, mais n’est plus valable.", "Se emitió aquí, pero ya no es válido.", "È stato emesso qui, ma non è più valido.", "Het is hier uitgegeven, maar geldt niet meer.",
	},
	"No document here":          {"Hier ist kein Dokument", "Aucun document ici", "Aquí no hay ningún documento", "Qui non c’è nessun documento", "Hier is geen document"},
	"There is no document here": {"Hier ist kein Dokument", "Il n’y a pas de document ici", "Aquí no hay ningún documento", "Qui non c’è nessun documento", "Hier is geen document"},
	"Sorry: %s. Ask whoever sent it for another one.": {
		"Leider: %s. Bitten Sie den Absender um einen neuen Link.", "Désolé : %s. Demandez un autre lien à l’expéditeur.", "Lo sentimos: %s. Pida otro enlace a quien se lo envió.",
		"Spiacenti: %s. Chieda un altro link a chi l’ha inviato.", "Helaas: %s. Vraag de afzender om een nieuwe link.",
	},
	LinkEnded: {
		"dieser Link führt zu keinem Dokument oder ist abgelaufen", "ce lien ne mène à aucun document ou a expiré", "este enlace no lleva a ningún documento o ha caducado", "questo link non porta a nessun documento o è scaduto", "deze link leidt naar geen document of is verlopen",
	},
	DocumentVoid: {"dieses Dokument ist ungültig", "ce document est annulé", "este documento está anulado", "questo documento è annullato", "dit document is ongeldig"},
	"Number":     {"Nummer", "Numéro", "Número", "Numero", "Nummer"},
	"Issued":     {"Ausgestellt", "Délivré le", "Emitido", "Emesso", "Uitgegeven"},
	"Signed by":  {"Signiert von", "Signé par", "Firmado por", "Firmato da", "Ondertekend door"},
	"The signature holds.": {
		"Die Signatur ist gültig.", "La signature est valable.", "La firma es válida.", "La firma è valida.", "De handtekening klopt.",
	},
	"The signature does not hold.": {
		"Die Signatur ist nicht gültig.", "La signature n’est pas valable.", "La firma no es válida.", "La firma non è valida.", "De handtekening klopt niet.",
	},
	"Pages": {"Seiten", "Pages", "Páginas", "Pagine", "Pagina’s"},
	"Is the file that you have this document?": {
		"Ist Ihre Datei dieses Dokument?", "Votre fichier est-il ce document ?", "¿Es su archivo este documento?", "Il suo file è questo documento?", "Is uw bestand dit document?",
	},
	"Choose the PDF. Its checksum is made here, in your browser; nothing is sent.": {
		"Wählen Sie das PDF. Seine Prüfsumme wird hier in Ihrem Browser gebildet; nichts wird gesendet.", "Choisissez le PDF. Sa somme de contrôle est calculée ici, dans votre navigateur ; rien n’est envoyé.",
		"Elija el PDF. Su suma de comprobación se calcula aquí, en su navegador; no se envía nada.", "Scelga il PDF. La somma di controllo è calcolata qui, nel suo browser; non viene inviato nulla.",
		"Kies de PDF. De controlesom wordt hier in uw browser berekend; er wordt niets verzonden.",
	},
	"Choose a PDF": {"PDF wählen", "Choisir un PDF", "Elegir un PDF", "Scegli un PDF", "PDF kiezen"},
	"This file is that document, byte by byte.": {
		"Diese Datei ist dieses Dokument, Byte für Byte.", "Ce fichier est ce document, octet pour octet.", "Este archivo es ese documento, byte a byte.", "Questo file è quel documento, byte per byte.", "Dit bestand is dat document, byte voor byte.",
	},
	"This file is another one, or has been changed.": {
		"Diese Datei ist eine andere oder wurde verändert.", "Ce fichier en est un autre, ou a été modifié.", "Este archivo es otro o ha sido modificado.", "Questo file è un altro, o è stato modificato.", "Dit is een ander bestand, of het is gewijzigd.",
	},
	"To compare a file, make its SHA-256 and hold it against the one above.": {
		"Um eine Datei zu vergleichen, bilden Sie ihre SHA-256-Prüfsumme und halten Sie sie neben die obige.", "Pour comparer un fichier, calculez son SHA-256 et comparez-le à celui ci-dessus.", "Para comparar un archivo, calcule su SHA-256 y compárelo con el de arriba.",
		"Per confrontare un file, calcoli il suo SHA-256 e lo confronti con quello qui sopra.", "Om een bestand te vergelijken, berekent u de SHA-256 en vergelijkt u die met de bovenstaande.",
	},
}

// words are the texts by language.
var words = func() catalog.Catalog {
	b := catalog.NewBuilder(catalog.Fallback(language.English))
	for text, list := range translated {
		for i, t := range list {
			if err := b.SetString(languages[i+1], text, t); err != nil {
				panic(err) // the texts are written here
			}
		}
	}
	return b
}()
