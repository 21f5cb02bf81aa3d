import type { SentenceWords } from './sentence-words'

export const french: SentenceWords = {
  beforeName: 'm. mm. mme. mlle. dr. pr. st. ste. cf. pl. bd. me. mes. mgr. gén. col. cap. lt. mr. prof. drs. bienh. p.ex. env.',
  beforeNumber: 'tél. t. n°. fig. p. pp. chap. vol. art. al. v. tabl. tab. app. liv. l.',
  other: 'lun. mar. mer. jeu. ven. sam. dim. apr. av. éd. hab. ex. s. siècl. boul. av.j.-c. apr.j.-c. j.-c. tél. al.',
  endsList: 'etc.',
  opening: 'Le La Les Un Une Il Elle Ils Elles Nous Vous Je On Ce Cette Ces En Dans Sur Avec Après Avant Quand Si Mais Et Ou Alors '
    + 'Cet Cela Ça Ceci Celui Celle Qui Que Quoi Quel Quelle Où Comment Pourquoi Parce Car Donc Or Ni Puis Ensuite Enfin Ainsi '
    + 'Aussi Aujourd’hui Hier Demain Ici Là Tout Tous Toute Toutes Plusieurs Certains Chaque Personne Rien Son Sa Ses Leur '
    + 'Leurs Mon Ma Mes Ton Notre Nos Votre Vos Du De Des Au Aux À Par Pour Sans Sous Chez Entre Pendant Depuis Vers Selon '
    + 'Malgré Lorsque Lorsqu’il Comme Tu Moi Lui Y Non Oui Pas Peut-être Cependant Toutefois Pourtant D’abord C’est C’était '
    + 'Voici Voilà',
}
