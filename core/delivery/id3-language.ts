import { lookup } from '../lookup'

/** Three-letter codes (ISO 639-2/T) of the two-letter codes (ISO 639-1) that the voices speak; ID3v2 wants three letters. */
const codes: Readonly<Record<string, string>> = Object.fromEntries((
  'af afr,am amh,an arg,ar ara,as asm,az aze,ba bak,be bel,bg bul,bn ben,bs bos,ca cat,cs ces,cv chv,cy cym,da dan,de deu,'
  + 'el ell,en eng,eo epo,es spa,et est,eu eus,fa fas,fi fin,fr fra,ga gle,gd gla,gn grn,gu guj,he heb,hi hin,hr hrv,ht hat,'
  + 'hu hun,hy hye,ia ina,id ind,io ido,is isl,it ita,ja jpn,ka kat,kk kaz,kl kal,kn kan,ko kor,ku kur,ky kir,la lat,lb ltz,'
  + 'lt lit,lv lav,mi mri,mk mkd,ml mal,mr mar,ms msa,mt mlt,my mya,nb nob,ne nep,nl nld,no nor,om orm,or ori,pa pan,pl pol,'
  + 'pt por,qu que,ro ron,ru rus,sd snd,si sin,sk slk,sl slv,sq sqi,sr srp,sv swe,sw swa,ta tam,te tel,th tha,tk tuk,tn tsn,'
  + 'tr tur,tt tat,ug uig,uk ukr,ur urd,uz uzb,vi vie,zh zho'
).split(',').map(pair => pair.split(' ') as [string, string]))

/** The ID3 language of a BCP 47 tag; `und` when it has no three-letter code. */
export function id3Language(tag: string): string {
  const primary = tag.toLowerCase().split('-')[0]!
  return primary.length === 3 ? primary : lookup(codes, primary) ?? 'und'
}
