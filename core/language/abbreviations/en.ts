import type { SentenceWords } from './sentence-words'

export const english: SentenceWords = {
  beforeName: 'mr. mrs. ms. dr. prof. st. rev. capt. col. gen. lt. sgt. maj. cmdr. gov. sen. rep. hon. messrs. mme. mlle. mt. ft. vs. '
    + 'cf. e.g. i.e. viz. ca. approx. v. fr. bp. pres. adm. supt. det. amb. drs. pt. lieut. cpl. pvt. brig. insp. atty. mx. '
    + 'msgr. lt.-col. maj.-gen.',
  beforeNumber: 'tel. no. nos. n°. fig. figs. p. pp. vol. ch. chap. sec. art. eq. ex. l. ll. jan. c. ca. b. d. r. fl. est. ext. op. ver. '
    + 'apt. rm. ste. bldg. eqs. paras. para. vv. vols. secs. chs. pg. nn. app. tab. pl. cor. thess. kgs. chron. matt. rom. gal. '
    + 'eph. heb. pet. tim. ps. prov. gen. exod. deut. isa. jer. ezek. feb. mar. apr. jun. jul. aug. sep. sept. oct. nov. dec.',
  other: 'ave. rd. blvd. inc. co. corp. ltd. bros. esq. min. sec. hr. hrs. lb. lbs. oz. tsp. tbsp. hwy. calif. mass. conn. penn. jr. sr. '
    + 'fla. tex. col. am. pm.',
  endsList: 'etc.',
  opening: 'A An The He She It We You They I In On At By For From With Without After Before When While If As But And Or So Then Now '
    + 'There Here This That These Those What Who Why How Where His Her Its Our Your Their My No Yes Not One Some Most Many All '
    + 'Each Every Since Because Although However',
}
