import type { SentenceWords } from './sentence-words'

export const german: SentenceWords = {
  beforeName: 'dr. prof. hr. fr. st. hl. fa. fam. gebr. frl. pfr. dres. hrn. dipl.-ing. z.b. d.h. bzw. ca. vgl. sog. geb. ing. mag. med. phil. jur. rer. nat. theol. habil. h.c. '
    + 'dipl. prof.in dr.in hrsg.',
  beforeNumber: 'tel. tab. nr. nrn. hausnr. ziff. jg. sp. abb. s. bd. kap. art. abs.',
  other: 'mio. mrd. tsd. std. min. sek. str. jh. aufl. stk. chr. usf. dgl. u.ä. u.a. i.d.r. z.t. ggf. evtl. etc. usw.',
  opening: 'Der Die Das Ein Eine Er Sie Es Wir Ihr Ich Man In Im Am An Auf Bei Mit Nach Vor Wenn Als Aber Und Oder So Dann Da Hier '
    + 'Dass Dies Diese Dieser Dieses Diesem Diesen Dem Den Des Was Wer Warum Wie Wo Nun Kein Keine Einer Eines Einem Einen Sein '
    + 'Seine Seinen Ihre Ihren Unser Unsere Mein Meine Doch Denn Dabei Dadurch Damals Damit Danach Darauf Darum Daher Dazu '
    + 'Deshalb Dort Dennoch Zu Zum Zur Von Vom Um Unter Über Durch Für Gegen Ohne Seit Während Nachdem Bevor Obwohl Weil Ob Bis '
    + 'Sobald Auch Noch Nur Schon Erst Jetzt Heute Gestern Später Früher Alle Viele Einige Manche Jeder Jede Jedes Beide '
    + 'Niemand Nichts Alles',
}
