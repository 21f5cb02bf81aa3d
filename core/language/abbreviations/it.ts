import type { SentenceWords } from './sentence-words'

export const italian: SentenceWords = {
  beforeName: 'sig. dott. prof. ing. avv. on. sigg. dr. proff. arch. geom. rag. sen. mons. gen. col. ten. magg. s. ss. st. v. cfr. ca. '
    + 'es. p.es. egr. spett.',
  beforeNumber: 'n. fig. p. pp. cap. vol. art. nn. pag. pagg. tab. tav. artt. tel. par. ediz.',
  other: 'a.c. d.c. s.p.a. s.r.l. sec. gen. feb. mar. apr. mag. giu. lug. ago. sett. ott. nov. dic. trad. ediz. cit. op.cit.',
  endsList: 'ecc. etc.',
  opening: 'Il Lo La I Gli Le Un Una Egli Lei Noi Voi In Con Per Quando Se Ma E O Allora Questo Questa Non Si Anche Ancora Da Dal '
    + 'Dalla Dai Dalle Del Della Dei Delle Di Al Alla Ai Alle Nel Nella Nei Nelle Sul Sulla Tra Fra Come Dove Perché Poi Dopo '
    + 'Prima Oggi Ieri Ora Qui Lì Là Chi Che Cosa Quale Quanto Ogni Tutti Tutte Tutto Molti Molte Alcuni Alcune Nessuno Nulla '
    + 'Niente Era È Sono Sì Suo Sua Suoi Loro Nostro Mio Mia Tuo Però Quindi Infatti Inoltre Tuttavia Mentre Senza Durante '
    + 'Secondo Ella Essi Io Tu Lui Uno Quel Quella Quei Quello Ecco Così Già',
}
