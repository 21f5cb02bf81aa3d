import type { SentenceWords } from './sentence-words'

export const polish: SentenceWords = {
  beforeName: 'prof. dr. doc. hab. mgr. inż. lek. med. mec. dyr. red. ks. bp. abp. kard. św. śp. bł. o. gen. płk. ppłk. mjr. kpt. por. '
    + 'ppor. sierż. hr. ul. al. pl. os. im. pt. np. tj. tzn. tzw. m.in. zob. ok. woj. pow. gm. jez. tow. ob. wg.',
  beforeNumber: 'nr. str. s. t. rys. tab. rozdz. pkt. ust. art. par. poz. godz. tel. zł. vol. wyd. ryc.',
  other: 'r. w. ww. wiek. rr. n.e. p.n.e. br. ub. o.o. s.a. min. sek. tys. mln. mld. szt. kg. stoł. jr. j.w. cd. dn. zł. sp. tłum. '
    + 'przeł. oprac. in.',
  endsList: 'itd. itp. etc.',
  opening: 'A Ale Albo Bo Był Była Było Byli Były Być Chociaż Choć Co Czy Czyli Dla Dlaczego Dlatego Do Dopiero Dziś Dzisiaj Gdy '
    + 'Gdyby Gdzie I Ich Im Inne Ja Jak Jako Jego Jej Jest Jeśli Jeżeli Już Każdy Kiedy Kto Która Które Który Lecz Mimo Może '
    + 'Można Musi My Na Nad Natomiast Nawet Nie Niech Nikt Nic No O Od Oczywiście On Ona One Oni Ono Oraz Pan Pani Po Pod '
    + 'Podczas Ponieważ Potem Później Poza Przed Przez Przy Są Się Skąd Sam Również Także Tak Tam Ten Ta To Te Tego Tej Teraz '
    + 'Też Tu Tutaj Ty Tylko W We Wczoraj Wszyscy Wszystko Więc Wtedy Według Wreszcie Z Za Zanim Zatem Zawsze Ze Że Żeby Żaden '
    + 'Następnie Niestety Obecnie Jednak Ponadto',
  ordinals: 'roman',
}
