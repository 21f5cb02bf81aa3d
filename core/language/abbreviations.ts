import de from 'cldr-segments-full/segments/de/suppressions.json' with { type: 'json' }
import en from 'cldr-segments-full/segments/en/suppressions.json' with { type: 'json' }
import es from 'cldr-segments-full/segments/es/suppressions.json' with { type: 'json' }
import fr from 'cldr-segments-full/segments/fr/suppressions.json' with { type: 'json' }
import it from 'cldr-segments-full/segments/it/suppressions.json' with { type: 'json' }
import pt from 'cldr-segments-full/segments/pt/suppressions.json' with { type: 'json' }

/** Abbreviations with their full stop, in lower case, by what may follow them. */
export interface Abbreviations {
  /** Stand before a name: never end a sentence. */
  readonly beforeName: ReadonlySet<string>
  /** Stand before a number: do not end a sentence there. */
  readonly beforeNumber: ReadonlySet<string>
  /** End a sentence only when a word follows that usually opens one. */
  readonly other: ReadonlySet<string>
}

interface SuppressionFile {
  segments: { segmentations: { SentenceBreak: { standard: readonly { suppression: string }[] } } }
}

/** Unicode CLDR 46, segments, by language. */
const suppressions: Readonly<Record<string, SuppressionFile>> = { de, en, es, fr, it, pt }

/** Entries of the data that are ordinary words far more often than abbreviations. */
const ordinaryWords = new Set([
  'act.', 'all.', 'alt.', 'as.', 'by.', 'do.', 'hat.', 'job.', 'link.', 'long.', 'mart.', 'ok.', 'up.', 'in.', 'is.',
  'no.', 'on.', 'or.', 'to.', 'card.', 'jam.', 'mar.', 'sat.', 'sun.', 'var.', 'if.', 'be.', 'me.', 'all.', 'est.', 'art.',
])

const beforeName: Readonly<Record<string, readonly string[]>> = {
  en: ['mr.', 'mrs.', 'ms.', 'dr.', 'prof.', 'st.', 'rev.', 'capt.', 'col.', 'gen.', 'lt.', 'sgt.', 'maj.', 'cmdr.', 'gov.',
    'sen.', 'rep.', 'hon.', 'messrs.', 'mme.', 'mlle.', 'mt.', 'ft.', 'vs.', 'cf.', 'e.g.', 'i.e.', 'viz.', 'ca.', 'approx.', 'v.', 'fr.', 'bp.', 'pres.', 'adm.', 'supt.', 'det.', 'amb.', 'drs.', 'pt.', 'lieut.', 'cpl.', 'pvt.', 'brig.', 'insp.', 'atty.'],
  de: ['dr.', 'prof.', 'hr.', 'fr.', 'st.', 'hl.', 'fa.', 'fam.', 'gebr.', 'frl.', 'pfr.', 'dres.', 'hrn.', 'dipl.-ing.', 'z. b.', 'z.b.', 'd. h.', 'd.h.', 'bzw.', 'ca.', 'vgl.', 'sog.', 'geb.'],
  fr: ['m.', 'mm.', 'mme.', 'mlle.', 'dr.', 'pr.', 'st.', 'ste.', 'cf.', 'pl.', 'bd.'],
  es: ['sr.', 'sra.', 'srta.', 'dr.', 'dra.', 'd.', 'dña.', 'prof.', 'ud.', 'uds.', 'excmo.', 'excma.', 'ilmo.', 'pza.', 'plza.', 'ctra.', 'avda.'],
  it: ['sig.', 'sig.ra.', 'dott.', 'prof.', 'ing.', 'avv.', 'on.'],
  pt: ['sr.', 'sra.', 'dr.', 'dra.', 'prof.', 'exmo.'],
}

const beforeNumber: Readonly<Record<string, readonly string[]>> = {
  en: ['tel.', 'no.', 'nos.', 'n°.', 'fig.', 'figs.', 'p.', 'pp.', 'vol.', 'ch.', 'chap.', 'sec.', 'art.', 'eq.', 'ex.', 'l.', 'll.', 'jan.',
    'c.', 'ca.', 'b.', 'd.', 'r.', 'fl.', 'est.', 'ext.', 'op.', 'ver.', 'apt.', 'rm.', 'ste.', 'bldg.', 'eqs.', 'paras.', 'para.', 'vv.', 'vols.', 'secs.', 'chs.', 'pg.', 'nn.', 'app.', 'tab.', 'pl.', 'cor.', 'thess.', 'kgs.', 'chron.', 'matt.', 'rom.', 'gal.', 'eph.', 'heb.', 'pet.', 'tim.', 'ps.', 'prov.', 'gen.', 'exod.', 'deut.', 'isa.', 'jer.', 'ezek.',
    'feb.', 'mar.', 'apr.', 'jun.', 'jul.', 'aug.', 'sep.', 'sept.', 'oct.', 'nov.', 'dec.'],
  de: ['tel.', 'tab.', 'nr.', 'nrn.', 'hausnr.', 'ziff.', 'jg.', 'sp.', 'abb.', 's.', 'bd.', 'kap.', 'art.', 'abs.'],
  fr: ['tél.', 't.', 'n°.', 'fig.', 'p.', 'pp.', 'chap.', 'vol.', 'art.', 'al.', 'v.'],
  es: ['tel.', 't.', 'ext.', 'n.º', 'núm.', 'núms.', 'caps.', 'figs.', 'ap.', 'c.', 'fig.', 'pág.', 'págs.', 'cap.', 'vol.', 'art.'],
  it: ['n.', 'fig.', 'p.', 'pp.', 'cap.', 'vol.', 'art.'],
  pt: ['n.', 'fig.', 'pág.', 'p.', 'cap.', 'vol.', 'art.'],
}

/** Beyond those of CLDR. */
const more: Readonly<Record<string, readonly string[]>> = {
  en: ['ave.', 'rd.', 'blvd.', 'inc.', 'co.', 'corp.', 'ltd.', 'bros.', 'esq.', 'min.', 'sec.', 'hr.', 'hrs.', 'lb.', 'lbs.', 'oz.', 'tsp.', 'tbsp.', 'hwy.', 'calif.', 'mass.', 'conn.', 'penn.', 'fla.', 'tex.', 'col.', 'am.', 'pm.'],
  de: ['mio.', 'mrd.', 'tsd.', 'std.', 'min.', 'sek.', 'str.', 'jh.', 'aufl.', 'stk.', 'chr.'],
  fr: ['env.', 'apr.', 'av.', 'éd.', 'hab.', 'ex.', 'mlle.'],
  es: ['aprox.', 'avda.', 'dpto.', 'ej.', 'gral.', 'lic.', 'ing.', 'sto.', 'sta.', 'mill.'],
}

const opening: Readonly<Record<string, string>> = {
  en: 'A An The He She It We You They I In On At By For From With Without After Before When While If As But And Or So Then Now '
    + 'There Here This That These Those What Who Why How Where His Her Its Our Your Their My No Yes Not One Some Most Many All '
    + 'Each Every Since Because Although However',
  de: 'Der Die Das Ein Eine Er Sie Es Wir Ihr Ich Man In Im Am An Auf Bei Mit Nach Vor Wenn Als Aber Und Oder So Dann Da Hier '
    + 'Das Dass Dies Diese Dieser Dieses Diesem Diesen Dem Den Des Was Wer Warum Wie Wo Nun Kein Keine Einer Eines Einem Einen Sein Seine Seinen Ihre Ihren Unser Unsere Mein Meine '
    + 'Doch Denn Dabei Dadurch Damals Damit Danach Darauf Darum Daher Dazu Deshalb Dort Dennoch Zu Zum Zur Von Vom Um Unter Über Durch Für Gegen Ohne Seit Während Nachdem Bevor Obwohl '
    + 'Weil Da Ob Bis Sobald Auch Noch Nur Schon Erst Jetzt Heute Gestern Später Früher Alle Viele Einige Manche Jeder Jede Jedes Beide Niemand Nichts Alles',
  fr: 'Le La Les Un Une Il Elle Ils Elles Nous Vous Je On Ce Cette Ces En Dans Sur Avec Après Avant Quand Si Mais Et Ou Alors',
  es: 'El La Los Las Un Una Él Ella Ellos En Con Por Para Cuando Si Pero Y O Entonces Este Esta Esto No Se',
  it: 'Il Lo La I Gli Le Un Una Egli Lei Noi Voi In Con Per Quando Se Ma E O Allora Questo Questa Non Si',
  pt: 'O A Os As Um Uma Ele Ela Eles Nós Em No Na Com Por Para Quando Se Mas E Ou Então Este Esta Isso Não',
}

const known = new Map<string, Abbreviations>()
const openings = new Map<string, ReadonlySet<string>>()

/** The abbreviations of a language (its primary subtag decides); none for a language without data. */
export function abbreviations(language: string): Abbreviations {
  const primary = primaryLanguage(language)
  let sets = known.get(primary)
  if (sets === undefined) {
    const data = suppressions[primary]?.segments.segmentations.SentenceBreak.standard ?? []
    sets = {
      beforeName: new Set(beforeName[primary]),
      beforeNumber: new Set(beforeNumber[primary]),
      other: new Set([...more[primary] ?? [], ...data.map(entry => entry.suppression.toLowerCase()).filter(entry => !ordinaryWords.has(entry))]),
    }
    known.set(primary, sets)
  }
  return sets
}

/** Words that usually open a sentence when they are written with a capital letter. */
export function openingWords(language: string): ReadonlySet<string> {
  const primary = primaryLanguage(language)
  let words = openings.get(primary)
  if (words === undefined) {
    words = new Set(opening[primary]?.split(' '))
    openings.set(primary, words)
  }
  return words
}

/** `en` of `en-GB`. */
export function primaryLanguage(language: string): string {
  return language.split(/[-_]/u)[0]!.toLowerCase()
}
