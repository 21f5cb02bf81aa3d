import type { SentenceWords } from './sentence-words'

export const swedish: SentenceWords = {
  beforeName: 'dr. prof. em. doc. hr. fr. frk. kapt. gen. löjtn. st. bl.a. t.ex. d.v.s. dvs. s.k. f.d. jfr. resp. ca. enl. inkl. exkl. '
    + 'fr.o.m. t.o.m. p.g.a. m.a.o. ev. el. d.ä. d.y. kyrkoh. ing. dir. red. hrr.',
  beforeNumber: 'nr. s. sid. fig. tab. kap. kl. tel. vol. bd. art. mom. st. avd. bil. jan. febr. mars. apr. aug. sept. okt. nov. dec.',
  other: 'f.kr. e.kr. kr. jr. sr. milj. mdr. tim. min. sek. st. str. aktieb. o.dyl. dyl. f.ö. m.h.a. omkr. uppl. utg. övers. '
    + 'forts.',
  endsList: 'm.m. osv. o.s.v. etc. o.d. m.fl.',
  opening: 'Den Det De En Ett Han Hon Vi Ni Jag Du Man Där Här Då Nu Så Men Och Eller För Om När Som I På Av Till Med Från Vid Under '
    + 'Över Efter Innan Före Utan Mot Mellan Sedan Därför Dessutom Denna Detta Dessa Vad Vem Var Varför Hur Ingen Inget Inte Ja '
    + 'Nej Alla Allt Många Några Någon Varje Hans Hennes Deras Vår Min Din Sin Även Också Enligt Trots Samtidigt Senare '
    + 'Tidigare Idag Igår Eftersom Medan Kanske Först',
}
