import type { Form, Found } from './form'
import { oneByOne } from './say'

// Postcodes are said figure by figure (common practice), where something beside them tells that they are none of the numbers that count.

const byFigures = ({ whole, grammar }: Found): string => whole.split('-').map(each => oneByOne(each, grammar)).join(', ')

/** Behind the two letters of a state in the USA: CA 90210. */
const states = 'AL|AK|AZ|AR|CA|CO|CT|DE|FL|GA|HI|ID|IL|IN|IA|KS|KY|LA|ME|MD|MA|MI|MN|MS|MO|MT|NE|NV|NH|NJ|NM|NY|NC|ND|OH|OK|OR|PA|RI|SC|SD|TN|TX|UT|VT|VA|WA|WV|WI|WY|DC'
const american: Form = {
  pattern: ({ primary }) => primary === 'en' ? `(?<=(?<!\\p{L})(?:${states})[ \\u00a0])\\d{5}(?:-\\d{4})?(?![\\p{L}\\p{N}]|[.,]\\d)` : null,
  say: byFigures,
}

/** Behind a word that says what it is: ZIP 90210, PLZ 10115, CP 28013. */
const named: Form = {
  pattern: () => '(?<=(?<!\\p{L})(?:ZIP(?: [Cc]ode)?|[Pp]ostcode|PLZ|[Pp]ostleitzahl|[Cc]ode postal|[Cc]ódigo postal|C\\.[ \\u00a0]?P\\.|CP):?[ \\u00a0])\\d{4,5}(?:-\\d{4})?(?![\\p{L}\\p{N}]|[.,]\\d)',
  say: byFigures,
}

/** Large towns of Germany, of Austria, and of Switzerland (Germany's have five figures, the others' four). */
const german = 'Berlin|Hamburg|München|Köln|Frankfurt|Stuttgart|Düsseldorf|Leipzig|Dortmund|Essen|Bremen|Dresden|Hannover|Nürnberg|Duisburg|Bochum|Wuppertal|Bielefeld|Bonn|Münster|Mannheim|Karlsruhe|Augsburg|Wiesbaden|Mönchengladbach|Gelsenkirchen|Aachen|Braunschweig|Chemnitz|Kiel|Halle|Magdeburg|Freiburg|Krefeld|Mainz|Lübeck|Erfurt|Oberhausen|Rostock|Kassel|Hagen|Potsdam|Saarbrücken|Hamm|Ludwigshafen|Oldenburg|Mülheim|Osnabrück|Leverkusen|Heidelberg|Darmstadt|Solingen|Regensburg|Herne|Paderborn|Neuss|Ingolstadt|Offenbach|Fürth|Ulm|Heilbronn|Würzburg|Pforzheim|Wolfsburg|Göttingen|Bottrop|Reutlingen|Koblenz|Recklinghausen|Erlangen|Bremerhaven|Remscheid|Bergisch|Jena|Trier|Salzgitter|Moers|Siegen|Hildesheim|Gütersloh|Cottbus|Kaiserslautern|Schwerin|Flensburg|Konstanz|Weimar|Passau|Bamberg|Bayreuth|Tübingen|Marburg|Gießen|Fulda|Lüneburg|Celle|Stralsund|Greifswald|Zwickau|Gera|Dessau|Görlitz|Landshut|Rosenheim|Kempten'
const austrianOrSwiss = 'Wien|Graz|Linz|Salzburg|Innsbruck|Klagenfurt|Villach|Wels|Bregenz|Zürich|Genf|Basel|Bern|Lausanne|Winterthur|Luzern|Lugano|Chur|Schaffhausen'

/** In German behind the number of a house, or before the name of a large town: Hauptstr. 5, 10115 Neustadt; in 10115 Berlin. */
const beforeTown: Form = {
  pattern: ({ primary }) => primary === 'de' ? `(?<![\\p{L}\\p{N}]|\\p{L}-|\\d[.,:/ \\u00a0–-])(?:(?<=\\d{1,4}[a-z]?, )\\d{5}(?= \\p{Lu}\\p{L}+)|\\d{5}(?=[ \\u00a0](?:${german})(?!\\p{L}))|\\d{4}(?=[ \\u00a0](?:${austrianOrSwiss})(?!\\p{L})))` : null,
  say: byFigures,
}

export const postcodes: readonly Form[] = [american, named, beforeTown]
