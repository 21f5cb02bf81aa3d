/** The roles besides the narrator. */
export const speakers = ['Tamsin', 'Oswin'] as const

/** Passages of the handbook as they are marked up in the sample: the text as it came in, with directions, and who speaks it. */
export const markedUp: readonly { readonly ssml: string, readonly role?: string }[] = [
  { ssml: 'It is an old quarrel, <break time="350ms"/>and it comes back each June. Oswin puts the second super on when the first is <emphasis level="moderate">half full</emphasis>. Tamsin waits until it is <emphasis level="strong">full</emphasis>. <prosody rate="85%" volume="-4dB">Both have honey.</prosody>' },
  { role: 'Tamsin', ssml: '“You give them too much room,” <voice quill:role="Narrator">she said.</voice> “They are <emphasis level="reduced">cold</emphasis> up there.”' },
  { role: 'Oswin', ssml: '“You give them too little. They swarm, and then they are <prosody pitch="+3st">warm</prosody> in somebody else\'s chimney.”' },
  { role: 'Tamsin', ssml: '“When did mine last swarm?”<break strength="strong"/>' },
  { role: 'Oswin', ssml: '“In <say-as interpret-as="date" format="y">2017</say-as>, <say-as interpret-as="date" format="y">2018</say-as>, and <prosody rate="80%">twice in <say-as interpret-as="date" format="y">2020</say-as></prosody>.”' },
  { ssml: 'She closed the book. <audio src="book-closing.wav"/><voice quill:role="Tamsin">“That was the <phoneme alphabet="ipa" ph="wˈɪnd">wind</phoneme>.”</voice>' },
  { ssml: 'What the record shows, <sub alias="">over twelve seasons and 96 colonies, </sub>is this: colonies that had room early made on average <say-as interpret-as="unit">3.4 kg</say-as> more. Colonies that had it late made cleaner comb. <prosody contour="(0%,+10Hz) (100%,-10Hz)">The difference in weather between one June and the next</prosody> was larger than both.' },
  { ssml: 'For about <sub alias="a dozen">twelve</sub> days in July the limes along the lane, <emphasis level="moderate"><lang xml:lang="la">Tilia cordata</lang></emphasis> and the later <emphasis level="moderate"><lang xml:lang="la">Tilia platyphyllos</lang></emphasis>, give more nectar than everything else in the year together. The hives gain 2 or 3 kg a day. You can smell it from the road, and at night the whole row <mark name="hum"/>hums like a ship.' },
]
