// The gender of nouns, as far as their endings and a list tell it: general rules of the grammars of French, Spanish and German (*from memory*).

const french = {
  feminine: new Set('reine abeille ruche fois femme fille heure minute seconde semaine année journée tonne once livre calorie kilocalorie milliseconde acre couronne roupie lire page ligne phrase note partie personne maison ville rue route voiture chose idée table chaise porte fenêtre fleur plante feuille pomme poire orange cerise graine goutte cuillère tasse assiette bouteille boîte caisse pièce carte lettre image photo question réponse leçon histoire nuit main tête dent jambe mère sœur tante cousine voisine élève espèce colonie larve nymphe aile patte ouvrière cellule alvéole récolte visite étape phase branche pierre colline montagne rivière mer île forêt vache poule chèvre brebis souris mouche guêpe fourmi unité équipe classe école place voix vie mort loi croix noix fin main soif faim part mer forêt bête fête tonne douzaine centaine dizaine quinzaine vingtaine entreprise langue règle liste touche clé copie'.split(' ')),
  masculine: new Set('comité été côté traité pâté musée lycée trophée génie incendie parapluie problème système programme kilogramme gramme litre mètre kilomètre centimètre cadre hectare arbre nombre chiffre verre mètre degré pied'.split(' ')),
  feminineEnding: /(?:tion|sion|xion|té|tié|ée|ie|ue|ine|ette|elle|enne|onne|ance|ence|ure|ade|esse|euse|rice|aine|eine|ande|aise|oise|ouse|ave|ille)$/u,
}

/** Whether a French noun (one or several) is feminine; false where it is masculine or not known. */
export function isFeminineInFrench(noun: string): boolean {
  const lower = noun.toLowerCase()
  const one = lower.replace(/(?<=\p{L}{3})s$/u, '')
  if (french.feminine.has(lower) || french.feminine.has(one)) return true
  return !french.masculine.has(one) && french.feminineEnding.test(one)
}

const spanish = {
  feminine: new Set('mano foto moto radio flor miel sal piel cárcel sangre leche noche tarde clase parte calle nave llave nube torre fiebre gente suerte muerte fuente frente serie especie imagen luz vez voz cruz paz raíz nariz mujer labor colmena'.split(' ')),
  masculine: new Set('día problema sistema programa tema idioma mapa planeta poema dálmata atleta poeta pirata clima drama diploma cometa tranvía gramo kilogramo panda tema síntoma teorema telegrama esquema lema dilema enigma fantasma aroma carisma dogma'.split(' ')),
}

/** Whether a Spanish noun (one or several) is feminine. */
export function isFeminineInSpanish(noun: string): boolean {
  const lower = noun.toLowerCase()
  const candidates = [lower, lower.replace(/s$/u, ''), lower.replace(/es$/u, ''), lower.replace(/ces$/u, 'z')]
  if (candidates.some(each => spanish.masculine.has(each))) return false
  if (candidates.some(each => spanish.feminine.has(each))) return true
  return /(?:a|as|ción|ciones|sión|siones|dad|dades|tad|tades|tud|tudes|umbre|umbres)$/u.test(lower)
}

const german = {
  feminine: new Set('Frau Stadt Uhr Nacht Hand Wand Bank Kuh Maus Nuss Kraft Macht Luft Frucht Welt Zeit Zahl Form Art Tür Schnur Angst Not Wahl Gans Tonne Burg Kur Spur Schlacht Tochter Mutter Schwester Feder Mauer Kammer Nummer Ziffer Regel Gabel Schüssel Insel Kugel Tafel Wurzel Zwiebel Nadel Ampel Schachtel Formel Steuer Feier Schulter Faser Oper Wespe Imkerei Arbeit Antwort Person Fahrt Flut Glut Haut Saat Tat Stirn Bahn Wahl Qual Million Milliarde'.split(' ')),
  others: new Set('Name Käse Junge Kunde Auge Ende Interesse Gebäude Getreide Gebirge Gemüse Erbe Hase Löwe Affe Bote Zeuge Buchstabe Gedanke Friede Wille Funke Kollege Neffe Kaffee Euro Biologe Experte Pate'.split(' ')),
}

/** Whether a German noun in the singular is feminine, so that one of it is *eine*. */
export function isFeminineInGerman(noun: string): boolean {
  if (german.others.has(noun)) return false
  return german.feminine.has(noun) || /(?:e|ung|heit|keit|schaft|ion|tät|erei|(?<=[^aeiou])in|ik|ur)$/u.test(noun)
}
