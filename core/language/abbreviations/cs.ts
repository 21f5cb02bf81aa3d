import type { SentenceWords } from './sentence-words'

export const czech: SentenceWords = {
  beforeName: 'prof. doc. dr. ing. mgr. bc. mudr. mvdr. judr. phdr. rndr. thdr. paedr. pharmdr. rsdr. akad. sv. p. pí. sl. gen. plk. '
    + 'pplk. mjr. kpt. por. ul. nám. tř. např. tj. tzn. tzv. zvl. resp. srov. mj. arch. red.',
  beforeNumber: 'č. čp. čj. str. s. obr. tab. kap. r. odst. písm. sv. roč. vyd. tel. cca. hod. vol.',
  other: 'ap. stol. n.l. př.n.l. l. kr. min. tis. mil. mld. a.s. s.r.o. s.p. csc. drsc. ph.d. jr. st. ml. ed. přel. kol. hod. odd. '
    + 'dep.',
  endsList: 'atd. apod. aj.',
  opening: 'A Ale Ani Aby Asi Až Bez Bohužel Byl Byla Bylo Byli Byly Být Co Což Dnes Do Dokud Během Jak Jako Jde Je Jeho Její Jejich '
    + 'Jen Jenže Jestliže Jestli Již Já Jsou Jsem K Každý Kde Kdo Kdy Když Kdyby Který Která Které Kromě Ke Mezi Mimo Možná '
    + 'Musí My Na Nad Nakonec Navíc Ne Nebo Nejprve Není Nic Nikdo Nyní O Od Oba On Ona Ono Oni Pak Po Pod Podle Pokud Potom '
    + 'Později Poté Pouze Pro Proč Proto Protože Před Při Přesto Přitom S Se Si Samozřejmě Také Tak Tam Tato Teď Ten Tento Ta '
    + 'To Ti Toto Tyto Ty U Už V Ve Včera Vše Všichni Všechno Však Vy Z Za Zatímco Ze Že Zde Zároveň Žádný',
  ordinals: 'roman',
}
