/**
 * Words that players use for how something sounds, and what the shelves call it: a sound that bears one of these words is found
 * by the plain one too.
 */
const ALSO_CALLED: Readonly<Record<string, readonly string[]>> = {
  warm: ['mellow', 'soft', 'round', 'muffled'],
  bright: ['clear', 'biting', 'ringing', 'bell-like', 'bells'],
  dark: ['deep', 'muffled', 'solemn'],
  low: ['deep', 'basses', 'dark'],
  high: ['tiny', 'clear', 'bells'],
  big: ['wide', 'ensemble', 'section', 'solemn', 'blaring', 'swelling'],
  large: ['wide', 'ensemble', 'section', 'solemn'],
  fat: ['deep', 'wide', 'section'],
  wide: ['ensemble', 'section'],
  small: ['tiny', 'close', 'hollow'],
  thin: ['tiny', 'hollow', 'reedy'],
  soft: ['mellow', 'breathy', 'fingers', 'muffled'],
  gentle: ['soft', 'mellow', 'breathy', 'round'],
  quiet: ['soft', 'close', 'tiny'],
  hard: ['bark', 'biting', 'firm', 'blaring', 'struck'],
  loud: ['blaring', 'bark', 'biting'],
  sharp: ['biting', 'percussive', 'struck'],
  pad: ['sustained', 'swelling', 'wide', 'ensemble', 'pipes'],
  long: ['sustained', 'bowed', 'swelling', 'pipes', 'ringing'],
  slow: ['swelling', 'solemn', 'strings and pads'],
  short: ['plucked', 'struck', 'percussive', 'dry'],
  fast: ['plucked', 'struck', 'percussive'],
  keys: ['pianos', 'organs'],
  synth: ['synthetic'],
  real: ['acoustic', 'wooden', 'woody'],
  natural: ['acoustic', 'wooden', 'woody'],
  choir: ['voices'],
  vocal: ['voices', 'singing'],
  singer: ['voices', 'singing'],
  horns: ['brass', 'section'],
  church: ['pipes', 'solemn'],
  guitar: ['plucked'],
  violins: ['bowed', 'ensemble'],
  bells: ['bell-like', 'mallets'],
  kit: ['drums'],
  beat: ['drums', 'percussion'],
  solo: ['singing', 'leads'],
  breath: ['breathy', 'reedy'],
  metal: ['bells', 'ringing', 'tiny'],
  wood: ['woody', 'wooden'],
  dirty: ['bark', 'biting', 'rolling'],
  clean: ['clear', 'even', 'round'],
};

/** Letters of a plain word after which it is taken for the whole while it is being typed. */
const TELLING = 3;

/** What else a searched word is called on the shelves; nothing for most words. `word` is in small letters, without accents. */
export function alsoCalled(word: string): readonly string[] {
  const own = ALSO_CALLED[word] as readonly string[] | undefined;
  if (own) return own;
  if (word.length < TELLING) return [];
  return Object.entries(ALSO_CALLED).flatMap(([plain, names]) =>
    plain.startsWith(word) ? names : [],
  );
}
