import type { SentenceWords } from './sentence-words'

export const dutch: SentenceWords = {
  beforeName: 'dhr. mevr. mw. mej. dr. drs. ir. ing. mr. mrs. prof. ds. jhr. jkvr. st. past. kap. kol. gen. lt. bijv. bv. d.w.z. m.a.w. '
    + 'i.p.v. m.b.t. n.a.v. t.a.v. i.v.m. t.g.v. m.u.v. i.t.t. o.l.v. t.o.v. o.a. ca. vgl. zgn. resp. fa. geb. burg. wed.',
  beforeNumber: 'nr. nrs. blz. pag. p. pp. afb. fig. tab. hfst. art. dl. vol. tel. max. min. reg. jrg.',
  other: 'e.a. v.chr. n.chr. chr. jl. jr. sr. a.s. evt. incl. excl. n.v. b.v. str. zn. gebr. jan. febr. mrt. apr. aug. sept. okt. '
    + 'nov. dec.',
  endsList: 'enz. e.d. etc.',
  opening: 'De Het Een Hij Zij Ze Wij We Jullie Ik Je Jij U Men Er Daar Hier Dit Dat Deze Die Wie Wat Waar Waarom Hoe In Op Aan Bij '
    + 'Met Na Naar Van Voor Uit Om Onder Over Door Tegen Zonder Tot Tijdens Sinds Als Toen Nadat Voordat Hoewel Omdat Maar En '
    + 'Of Want Dus Dan Nu Ook Nog Niet Geen Alle Elke Ieder Iedere Sommige Veel Zijn Haar Hun Mijn Ons Onze Daarna Later '
    + 'Vroeger Vandaag Gisteren Ja Nee Zo Toch Echter Niemand Iemand Alles Niets',
}
