import type { SentenceWords } from './sentence-words'

export const spanish: SentenceWords = {
  beforeName: 'sr. sra. srta. dr. dra. d. dña. prof. ud. uds. excmo. excma. ilmo. pza. plza. ctra. avda. sres. sras. dres. dras. vd. '
    + 'vds. p. fr. s. sto. sta. lic. ing. arq. gral. cnel. cap. tte. mons. p.ej. ej. cf. vid. rr.pp. ss. av. c.',
  beforeNumber: 'tel. t. ext. n.º núm. núms. caps. figs. ap. c. fig. pág. págs. cap. vol. art. p. pp. tomo. tabl. ed. apdo.',
  other: 'lun. mar. mié. jue. vie. sáb. dom. aprox. dpto. mill. a.c. d.c. a.m. p.m. s.a. s.l.',
  endsList: 'etc.',
  opening: 'El La Los Las Un Una Él Ella Ellos En Con Por Para Cuando Si Pero Y O Entonces Este Esta Esto No Se Ello Ellas Nosotros '
    + 'Vosotros Yo Tú Usted Ustedes Quién Quien Que Qué Cuál Dónde Donde Cómo Como Porque Cuánto Aquí Allí Ahí Hoy Ayer Mañana '
    + 'Después Antes Ahora Luego Ya Aún Todavía También Tampoco Todos Todas Todo Muchos Muchas Algunos Algunas Cada Nadie Nada '
    + 'Era Es Son Fue Fueron Sí Su Sus Mi Mis Nuestro Nuestra Sin Sobre Bajo Entre Desde Hasta Durante Según Tras Al Del De A '
    + 'Ese Esa Esos Esas Aquel Aquella Estos Estas Así Además Aunque Mientras Tal Quizá Unos Unas Hay Había',
}
