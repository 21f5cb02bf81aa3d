import { primaryLanguage } from '../../language/abbreviations'

/** What the rules of a language say: this product's own tables; the expansions that can be are checked against others. */
export interface RuleWords {
  readonly to: string
  readonly and: string
  readonly dot: string
  readonly slash: string
  readonly at: string
  readonly hyphen: string
  readonly underscore: string
  readonly colon: string
  /** Words before a Roman numeral that is said as a number, as a pattern. */
  readonly numbered: string
  /** Short forms of large numbers. */
  readonly magnitudes: Readonly<Record<string, string>>
  readonly symbols: Readonly<Record<string, string>>
  /** Abbreviations as they are written, with the last full stop. */
  readonly abbreviations: Readonly<Record<string, string>>
  /** Those that stand before a number only. */
  readonly beforeNumber: Readonly<Record<string, string>>
  /** Units beyond those that formatters know: one, and several. */
  readonly units: Readonly<Record<string, readonly [one: string, many: string]>>
}

const table: Readonly<Record<string, RuleWords>> = {
  en: {
    to: 'to', and: 'and', dot: 'dot', slash: 'slash', at: 'at', hyphen: 'dash', underscore: 'underscore', colon: 'colon',
    numbered: 'chapter|part|book|volume|vol\\.|act|scene|section|article|appendix|table|figure|plate|canto|phase|stage|type|class|grade|level|mark|world war|war|psalm|lesson|unit|page|number|no\\.',
    magnitudes: { 'thousand': 'thousand', 'million': 'million', 'billion': 'billion', 'trillion': 'trillion', 'k': 'thousand', 'm': 'million', 'bn': 'billion', 'mn': 'million' },
    symbols: { '&': 'and', '§': 'section', '©': 'copyright', '®': 'registered', '™': 'trademark', '+': 'plus', '=': 'equals', '×': 'times', '÷': 'divided by', '±': 'plus or minus', '≈': 'about', '≤': 'at most', '≥': 'at least', '<': 'less than', '>': 'greater than', '→': 'to', '°': 'degrees', '%': 'per cent', '‰': 'per mille', '#': 'number', '@': 'at', '№': 'number', '∞': 'infinity', '√': 'the square root of', '£': 'pounds', '€': 'euros', '$': 'dollars', '¢': 'cents' },
    abbreviations: {
      'Mr.': 'Mister', 'Mr': 'Mister', 'Mrs.': 'Missis', 'Mrs': 'Missis', 'Ms.': 'Miz', 'Dr.': 'Doctor', 'Dr': 'Doctor', 'Prof.': 'Professor', 'Rev.': 'Reverend', 'Hon.': 'Honourable', 'Gen.': 'General', 'Col.': 'Colonel', 'Capt.': 'Captain', 'Lt.': 'Lieutenant', 'Sgt.': 'Sergeant',
      'Jr.': 'Junior', 'Sr.': 'Senior', 'e.g.': 'for example', 'i.e.': 'that is', 'etc.': 'et cetera', 'approx.': 'approximately', 'vs.': 'versus', 'cf.': 'compare', 'incl.': 'including', 'excl.': 'excluding', 'viz.': 'namely', 'et al.': 'and others',
      'dept.': 'department', 'Dept.': 'Department', 'govt.': 'government', 'est.': 'established', 'max.': 'maximum', 'min.': 'minimum', 'temp.': 'temperature', 'diam.': 'diameter', 'esp.': 'especially', 'resp.': 'respectively', 'misc.': 'miscellaneous', 'ca.': 'circa', 'c/o': 'care of', 'a.k.a.': 'also known as', 'w/o': 'without', 'w/': 'with',
      'Mon.': 'Monday', 'Tue.': 'Tuesday', 'Tues.': 'Tuesday', 'Wed.': 'Wednesday', 'Thu.': 'Thursday', 'Thurs.': 'Thursday', 'Fri.': 'Friday', 'Jan.': 'January', 'Feb.': 'February', 'Aug.': 'August', 'Sept.': 'September', 'Oct.': 'October', 'Nov.': 'November', 'Dec.': 'December', 'B.C.': 'BC', 'A.D.': 'AD', 'spp.': 'species', 'sp.': 'species', 'subsp.': 'subspecies',
    },
    beforeNumber: { 'No.': 'number', 'no.': 'number', 'Nos.': 'numbers', 'Fig.': 'figure', 'fig.': 'figure', 'Figs.': 'figures', 'p.': 'page', 'pp.': 'pages', 'vol.': 'volume', 'Vol.': 'volume', 'ch.': 'chapter', 'Ch.': 'chapter', 'chap.': 'chapter', 'sec.': 'section', 'Sec.': 'section', 'c.': 'circa', 'ed.': 'edition', 'Art.': 'article' },
    units: {
      'mg': ['milligram', 'milligrams'], 'µg': ['microgram', 'micrograms'], 't': ['tonne', 'tonnes'], 'W': ['watt', 'watts'], 'kW': ['kilowatt', 'kilowatts'], 'kWh': ['kilowatt hour', 'kilowatt hours'], 'V': ['volt', 'volts'], 'Hz': ['hertz', 'hertz'], 'kHz': ['kilohertz', 'kilohertz'], 'MHz': ['megahertz', 'megahertz'], 'GHz': ['gigahertz', 'gigahertz'],
      'hPa': ['hectopascal', 'hectopascals'], 'kPa': ['kilopascal', 'kilopascals'], 'bar': ['bar', 'bars'], 'kJ': ['kilojoule', 'kilojoules'], 'kcal': ['kilocalorie', 'kilocalories'], 'dB': ['decibel', 'decibels'], 'mm²': ['square millimetre', 'square millimetres'], 'cm²': ['square centimetre', 'square centimetres'], 'm²': ['square metre', 'square metres'], 'km²': ['square kilometre', 'square kilometres'], 'cm³': ['cubic centimetre', 'cubic centimetres'], 'm³': ['cubic metre', 'cubic metres'],
      'dl': ['decilitre', 'decilitres'], 'cl': ['centilitre', 'centilitres'], 'hl': ['hectolitre', 'hectolitres'], 'µm': ['micrometre', 'micrometres'], 'nm': ['nanometre', 'nanometres'], 'ms': ['millisecond', 'milliseconds'], 'rpm': ['revolution per minute', 'revolutions per minute'], 'kbit/s': ['kilobit per second', 'kilobits per second'], 'lbs': ['pound', 'pounds'], 'sq ft': ['square foot', 'square feet'],
    },
  },
  de: {
    to: 'bis', and: 'und', dot: 'Punkt', slash: 'Schrägstrich', at: 'ät', hyphen: 'Bindestrich', underscore: 'Unterstrich', colon: 'Doppelpunkt',
    numbered: 'Kapitel|Teil|Buch|Band|Bd\\.|Akt|Szene|Abschnitt|Artikel|Anhang|Tabelle|Tafel|Abbildung|Abb\\.|Phase|Stufe|Typ|Klasse|Weltkrieg|Lektion|Seite|Nummer|Nr\\.',
    magnitudes: { 'Tausend': 'Tausend', 'tausend': 'tausend', 'Tsd.': 'Tausend', 'Million': 'Million', 'Millionen': 'Millionen', 'Mio.': 'Millionen', 'Milliarde': 'Milliarde', 'Milliarden': 'Milliarden', 'Mrd.': 'Milliarden', 'Billionen': 'Billionen' },
    symbols: { '&': 'und', '§': 'Paragraf', '©': 'Copyright', '®': 'eingetragenes Warenzeichen', '™': 'Warenzeichen', '+': 'plus', '=': 'gleich', '×': 'mal', '÷': 'geteilt durch', '±': 'plus minus', '≈': 'ungefähr', '≤': 'höchstens', '≥': 'mindestens', '<': 'kleiner als', '>': 'größer als', '→': 'nach', '°': 'Grad', '%': 'Prozent', '‰': 'Promille', '#': 'Nummer', '@': 'ät', '№': 'Nummer', '∞': 'unendlich', '√': 'Wurzel aus', '£': 'Pfund', '€': 'Euro', '$': 'Dollar', '¢': 'Cent' },
    abbreviations: {
      'z. B.': 'zum Beispiel', 'z.B.': 'zum Beispiel', 'd. h.': 'das heißt', 'd.h.': 'das heißt', 'u. a.': 'unter anderem', 'u.a.': 'unter anderem', 'usw.': 'und so weiter', 'bzw.': 'beziehungsweise', 'ca.': 'zirka', 'etc.': 'et cetera', 'vgl.': 'vergleiche', 'Vgl.': 'Vergleiche', 'evtl.': 'eventuell', 'ggf.': 'gegebenenfalls', 'inkl.': 'inklusive', 'exkl.': 'exklusive', 'o. Ä.': 'oder Ähnliches', 'u. Ä.': 'und Ähnliches', 'u. U.': 'unter Umständen', 'i. d. R.': 'in der Regel', 'sog.': 'sogenannte', 'max.': 'maximal', 'min.': 'minimal', 'mind.': 'mindestens', 'bes.': 'besonders', 'allg.': 'allgemein', 'geb.': 'geboren', 'gest.': 'gestorben', 'v. Chr.': 'vor Christus', 'n. Chr.': 'nach Christus', 's. o.': 'siehe oben', 's. u.': 'siehe unten',
      'Dr.': 'Doktor', 'Prof.': 'Professor', 'Hr.': 'Herr', 'Fr.': 'Frau', 'Hl.': 'Heiliger', 'hl.': 'heilige', 'St.': 'Sankt', 'Mo.': 'Montag', 'Di.': 'Dienstag', 'Mi.': 'Mittwoch', 'Do.': 'Donnerstag', 'Jh.': 'Jahrhundert', 'Std.': 'Stunden', 'Min.': 'Minuten', 'Sek.': 'Sekunden', 'Stk.': 'Stück', 'Abt.': 'Abteilung', 'Tel.': 'Telefon', 'Aufl.': 'Auflage',
    },
    beforeNumber: { 'Nr.': 'Nummer', 'Abb.': 'Abbildung', 'Tab.': 'Tabelle', 'Kap.': 'Kapitel', 'Bd.': 'Band', 'S.': 'Seite', 'Art.': 'Artikel', 'Abs.': 'Absatz' },
    units: {
      'mg': ['Milligramm', 'Milligramm'], 'µg': ['Mikrogramm', 'Mikrogramm'], 't': ['Tonne', 'Tonnen'], 'W': ['Watt', 'Watt'], 'kW': ['Kilowatt', 'Kilowatt'], 'kWh': ['Kilowattstunde', 'Kilowattstunden'], 'V': ['Volt', 'Volt'], 'Hz': ['Hertz', 'Hertz'], 'kHz': ['Kilohertz', 'Kilohertz'], 'MHz': ['Megahertz', 'Megahertz'], 'GHz': ['Gigahertz', 'Gigahertz'], 'hPa': ['Hektopascal', 'Hektopascal'], 'kPa': ['Kilopascal', 'Kilopascal'], 'bar': ['Bar', 'Bar'], 'kJ': ['Kilojoule', 'Kilojoule'], 'kcal': ['Kilokalorie', 'Kilokalorien'], 'dB': ['Dezibel', 'Dezibel'],
      'mm²': ['Quadratmillimeter', 'Quadratmillimeter'], 'cm²': ['Quadratzentimeter', 'Quadratzentimeter'], 'm²': ['Quadratmeter', 'Quadratmeter'], 'km²': ['Quadratkilometer', 'Quadratkilometer'], 'cm³': ['Kubikzentimeter', 'Kubikzentimeter'], 'm³': ['Kubikmeter', 'Kubikmeter'], 'dl': ['Deziliter', 'Deziliter'], 'cl': ['Zentiliter', 'Zentiliter'], 'hl': ['Hektoliter', 'Hektoliter'], 'µm': ['Mikrometer', 'Mikrometer'], 'nm': ['Nanometer', 'Nanometer'], 'ms': ['Millisekunde', 'Millisekunden'],
    },
  },
  fr: {
    to: 'à', and: 'et', dot: 'point', slash: 'barre oblique', at: 'arobase', hyphen: 'tiret', underscore: 'tiret bas', colon: 'deux-points',
    numbered: 'chapitre|partie|livre|tome|volume|vol\\.|acte|scène|section|article|annexe|tableau|figure|planche|phase|stade|type|classe|niveau|leçon|page|numéro|n°',
    magnitudes: { 'mille': 'mille', 'million': 'million', 'millions': 'millions', 'milliard': 'milliard', 'milliards': 'milliards', 'M': 'millions', 'Md': 'milliards' },
    symbols: { '&': 'et', '§': 'paragraphe', '©': 'copyright', '®': 'marque déposée', '™': 'marque', '+': 'plus', '=': 'égale', '×': 'fois', '÷': 'divisé par', '±': 'plus ou moins', '≈': 'environ', '≤': 'au plus', '≥': 'au moins', '<': 'inférieur à', '>': 'supérieur à', '→': 'vers', '°': 'degrés', '%': 'pour cent', '‰': 'pour mille', '#': 'numéro', '@': 'arobase', '№': 'numéro', '∞': 'infini', '√': 'racine de', '£': 'livres', '€': 'euros', '$': 'dollars', '¢': 'cents' },
    abbreviations: {
      'M.': 'Monsieur', 'MM.': 'Messieurs', 'Mme': 'Madame', 'Mmes': 'Mesdames', 'Mlle': 'Mademoiselle', 'Mlles': 'Mesdemoiselles', 'Dr': 'Docteur', 'Pr': 'Professeur', 'Me': 'Maître', 'St': 'Saint', 'Ste': 'Sainte', 'p. ex.': 'par exemple', 'p.ex.': 'par exemple', 'c.-à-d.': 'c’est-à-dire', 'etc.': 'et cetera', 'env.': 'environ', 'cf.': 'voir', 'max.': 'maximum', 'min.': 'minimum', 'av. J.-C.': 'avant Jésus-Christ', 'apr. J.-C.': 'après Jésus-Christ', 'tél.': 'téléphone', 'Tél.': 'Téléphone', 'bd': 'boulevard', 'av.': 'avenue', 'éd.': 'édition', 'hab.': 'habitants', 'dép.': 'département', 'janv.': 'janvier', 'févr.': 'février', 'juil.': 'juillet', 'sept.': 'septembre', 'oct.': 'octobre', 'nov.': 'novembre', 'déc.': 'décembre',
    },
    beforeNumber: { 'n°': 'numéro', 'N°': 'numéro', 'nº': 'numéro', 'p.': 'page', 'pp.': 'pages', 'fig.': 'figure', 'Fig.': 'figure', 'vol.': 'volume', 'chap.': 'chapitre', 'art.': 'article', 't.': 'tome' },
    units: {
      'mg': ['milligramme', 'milligrammes'], 'µg': ['microgramme', 'microgrammes'], 't': ['tonne', 'tonnes'], 'W': ['watt', 'watts'], 'kW': ['kilowatt', 'kilowatts'], 'kWh': ['kilowattheure', 'kilowattheures'], 'V': ['volt', 'volts'], 'Hz': ['hertz', 'hertz'], 'kHz': ['kilohertz', 'kilohertz'], 'MHz': ['mégahertz', 'mégahertz'], 'GHz': ['gigahertz', 'gigahertz'], 'hPa': ['hectopascal', 'hectopascals'], 'kPa': ['kilopascal', 'kilopascals'], 'bar': ['bar', 'bars'], 'kJ': ['kilojoule', 'kilojoules'], 'kcal': ['kilocalorie', 'kilocalories'], 'dB': ['décibel', 'décibels'],
      'mm²': ['millimètre carré', 'millimètres carrés'], 'cm²': ['centimètre carré', 'centimètres carrés'], 'm²': ['mètre carré', 'mètres carrés'], 'km²': ['kilomètre carré', 'kilomètres carrés'], 'cm³': ['centimètre cube', 'centimètres cubes'], 'm³': ['mètre cube', 'mètres cubes'], 'dl': ['décilitre', 'décilitres'], 'cl': ['centilitre', 'centilitres'], 'hl': ['hectolitre', 'hectolitres'], 'µm': ['micromètre', 'micromètres'], 'nm': ['nanomètre', 'nanomètres'], 'ms': ['milliseconde', 'millisecondes'],
    },
  },
  es: {
    to: 'a', and: 'y', dot: 'punto', slash: 'barra', at: 'arroba', hyphen: 'guion', underscore: 'guion bajo', colon: 'dos puntos',
    numbered: 'capítulo|parte|libro|tomo|volumen|vol\\.|acto|escena|sección|artículo|anexo|tabla|figura|lámina|fase|etapa|tipo|clase|nivel|lección|página|número|n\\.º|siglo|guerra mundial',
    magnitudes: { 'mil': 'mil', 'millón': 'millón', 'millones': 'millones', 'M': 'millones' },
    symbols: { '&': 'y', '§': 'sección', '©': 'derechos reservados', '®': 'marca registrada', '™': 'marca', '+': 'más', '=': 'igual a', '×': 'por', '÷': 'dividido por', '±': 'más o menos', '≈': 'aproximadamente', '≤': 'como máximo', '≥': 'como mínimo', '<': 'menor que', '>': 'mayor que', '→': 'a', '°': 'grados', '%': 'por ciento', '‰': 'por mil', '#': 'número', '@': 'arroba', '№': 'número', '∞': 'infinito', '√': 'raíz de', '£': 'libras', '€': 'euros', '$': 'dólares', '¢': 'centavos' },
    abbreviations: {
      'Sr.': 'señor', 'Sra.': 'señora', 'Srta.': 'señorita', 'Sres.': 'señores', 'D.': 'don', 'D.ª': 'doña', 'Dr.': 'doctor', 'Dra.': 'doctora', 'Prof.': 'profesor', 'Ud.': 'usted', 'Uds.': 'ustedes', 'p. ej.': 'por ejemplo', 'p.ej.': 'por ejemplo', 'etc.': 'etcétera', 'aprox.': 'aproximadamente', 'cf.': 'compárese', 'vs.': 'contra', 'máx.': 'máximo', 'mín.': 'mínimo', 'a. C.': 'antes de Cristo', 'd. C.': 'después de Cristo', 'EE. UU.': 'Estados Unidos', 'EE.UU.': 'Estados Unidos', 'tel.': 'teléfono', 'Tel.': 'Teléfono', 'avda.': 'avenida', 'Avda.': 'Avenida', 'dpto.': 'departamento', 'ed.': 'edición', 'incl.': 'incluido', 'Sto.': 'Santo', 'Sta.': 'Santa',
    },
    beforeNumber: { 'n.º': 'número', 'N.º': 'número', 'nº': 'número', 'núm.': 'número', 'pág.': 'página', 'págs.': 'páginas', 'p.': 'página', 'pp.': 'páginas', 'fig.': 'figura', 'Fig.': 'figura', 'vol.': 'volumen', 'cap.': 'capítulo', 'art.': 'artículo', 't.': 'tomo' },
    units: {
      'mg': ['miligramo', 'miligramos'], 'µg': ['microgramo', 'microgramos'], 't': ['tonelada', 'toneladas'], 'W': ['vatio', 'vatios'], 'kW': ['kilovatio', 'kilovatios'], 'kWh': ['kilovatio hora', 'kilovatios hora'], 'V': ['voltio', 'voltios'], 'Hz': ['hercio', 'hercios'], 'kHz': ['kilohercio', 'kilohercios'], 'MHz': ['megahercio', 'megahercios'], 'GHz': ['gigahercio', 'gigahercios'], 'hPa': ['hectopascal', 'hectopascales'], 'kPa': ['kilopascal', 'kilopascales'], 'bar': ['bar', 'bares'], 'kJ': ['kilojulio', 'kilojulios'], 'kcal': ['kilocaloría', 'kilocalorías'], 'dB': ['decibelio', 'decibelios'],
      'mm²': ['milímetro cuadrado', 'milímetros cuadrados'], 'cm²': ['centímetro cuadrado', 'centímetros cuadrados'], 'm²': ['metro cuadrado', 'metros cuadrados'], 'km²': ['kilómetro cuadrado', 'kilómetros cuadrados'], 'cm³': ['centímetro cúbico', 'centímetros cúbicos'], 'm³': ['metro cúbico', 'metros cúbicos'], 'dl': ['decilitro', 'decilitros'], 'cl': ['centilitro', 'centilitros'], 'hl': ['hectolitro', 'hectolitros'], 'µm': ['micrómetro', 'micrómetros'], 'nm': ['nanómetro', 'nanómetros'], 'ms': ['milisegundo', 'milisegundos'],
    },
  },
}

/** The words of a language (BCP 47); null where there are none. */
export function ruleWords(language: string): RuleWords | null {
  const primary = primaryLanguage(language)
  return Object.hasOwn(table, primary) ? table[primary]! : null
}

/** The words of a language, or the English ones. */
export function wordsFor(language: string): RuleWords {
  return ruleWords(language) ?? table['en']!
}
