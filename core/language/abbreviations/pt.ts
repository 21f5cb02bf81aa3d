import type { SentenceWords } from './sentence-words'

export const portuguese: SentenceWords = {
  beforeName: 'sr. sra. dr. dra. prof. exmo. srs. sras. srta. dras. drs. profa. eng. arq. gen. cel. maj. ten. pe. fr. d. s. sto. sta. '
    + 'exma. exa. av. r. pça. lg. cf. p.ex. ex. v.exa. mons.',
  beforeNumber: 'n. fig. pág. p. cap. vol. art. n.º tab. págs. pp. caps. figs. tel. séc. aprox. ed.',
  other: 'a.c. d.c. ltda. cia. obs. s.a.',
  endsList: 'etc.',
  opening: 'O A Os As Um Uma Ele Ela Eles Nós Em No Na Com Por Para Quando Se Mas E Ou Então Este Esta Isso Não Uns Umas Eu Tu Você '
    + 'Vocês Quem Que Qual Quais Onde Porque Porquê Como Quanto Aqui Ali Lá Hoje Ontem Amanhã Depois Antes Agora Logo Ainda Já '
    + 'Também Todos Todas Tudo Muitos Muitas Alguns Algumas Cada Ninguém Nada Era É São Sim Seu Sua Seus Suas Meu Minha Nosso '
    + 'Nossa Porém Portanto Assim Além Enquanto Sem Durante Segundo Até Desde Entre Sobre Sob Do Da Dos Das De Ao À Nos Nas Num '
    + 'Numa Pelo Pela Esse Essa Aquele Aquela Aquilo Isto Talvez',
}
