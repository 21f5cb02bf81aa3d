import type { SentenceWords } from './sentence-words'

export const turkish: SentenceWords = {
  beforeName: 'dr. prof. doç. yrd. öğr. arş. gör. uzm. av. sn. hz. st. op. ecz. müh. mim. alb. yzb. bnb. tğm. ütğm. gen. org. korg. '
    + 'tümg. tuğg. bşk. müd. örn. bkz. bk. krş. yak. t.c. fr. alm. ing. ar. far.',
  beforeNumber: 'no. s. sf. c. şek. tab. tel. md. böl. cilt. sa.',
  other: 'vd. a.ş. ltd. şti. m.ö. m.s. i.ö. i.s. yy. yay. çev. haz. ed. mah. cad. cd. sok. sk. blv. apt. kat. dak. sn. kg. tic. '
    + 'san. ağ.',
  endsList: 'vb. vs.',
  opening: 'Bu Bunu Bunun Buna Bunlar Bunların Burada Bugün Böyle Böylece Bütün Bazı Bir Biri Biz Bizim Ben Bana Benim Ama Ancak '
    + 'Aslında Artık Ayrıca Çünkü Çok Daha Dahası Diğer Dün Eğer En Fakat Gene Her Herkes Hem Hiç Halbuki Hatta Hangi İşte İlk '
    + 'İki Kadın Kim Kimse Ne Neden Nasıl Nerede O Onlar Onu Onun Ona Orada Oysa Önce Örneğin Sen Siz Sizin Son Sonra Sonunda '
    + 'Sonuçta Şimdi Şu Tüm Üstelik Ve Veya Ya Yani Yine Yeni Zaten Evet Hayır Var Yok Belki Birçok Birkaç Kendi Dolayısıyla',
  ordinals: 'all',
}
