import { accept, refuse, type Outcome } from '../refusal.js';
import { ALLERGEN_KEYS, ALLERGENS, type Allergen } from './allergens.js';

/**
 * Words by which a material gives its allergen away, as people write them in several languages, without accents. A word
 * of five letters or more counts wherever it stands ("sellerie" in Knollensellerie), a shorter one at the end or the
 * beginning of a word; one that ends in `$` counts whole.
 */
const WORDS: Readonly<Record<Allergen, string>> = {
  gluten:
    'wheat weizen ble$ trigo frumento grano$ tarwe barley gerste orge$ cebada orzo gerst rye$ roggen seigle centeno segale rogge oat$ oats oatmeal hafer avoine avena haver spelt dinkel epeautre espelta farro malt malz semolina griess couscous bulgur seitan flour mehl farine farina harina beer$ bier$ biere cerveza kvass bread brot soy_sauce sojasauce shoyu miso gochujang doenjang teriyaki hoisin ponzu panko',
  crustaceans:
    'shrimp prawn crab$ crabs lobster crayfish krill krabbe garnele krebs hummer crevette crabe homard langost gamba camaron gambero granchio garnaal belacan terasi saeujeot',
  eggs: 'egg$ eggs ei$ eier$ oeuf huevo uovo uova mayonn mayo$ albumen',
  fish: 'fish$ fishes fisch poisson pescado pesce vis$ vissaus anchov anchois anchoa acciug sardine sardell sardina tuna thunfisch thon$ cod$ kabeljau salmon lachs saumon herring hering hareng mackerel makrele bonito katsuo dashi nam_pla nuoc_mam garum colatura worcester jeotgal myeolchi caviar roe$',
  peanuts: 'peanut groundnut erdnuss arachid cacahuet cacahouet mani$ pinda',
  soy: 'soy$ soya soja soybean sojabohne tofu tempeh edamame miso tamari shoyu natto doenjang gochujang doubanjiang douchi hoisin teriyaki',
  milk: 'milk milch lait$ leche latte$ melk whey molke lactos lactoserum laktose siero suero butter$ butters buttermilk beurre mantequilla burro$ ghee cream$ creams sahne creme cheese kase$ kaese fromage queso formaggio kaas yogurt yoghurt joghurt yaourt yogur kefir casein kasein quark$ skyr',
  nuts: 'nut$ nuts almond mandel amande almendra mandorl hazelnut haselnuss noisette avellana nocciol walnut walnuss noix nuez noce$ noci$ cashew kaschu pecan pekan pistach pistazi macadamia paranuss',
  celery: 'celery celeriac sellerie celeri apio$ sedano selderij selleri',
  mustard: 'mustard senf moutarde mostaza senape mosterd',
  sesame: 'sesam ajonjoli tahin gomasio benne$ zaatar',
  sulphites: 'sulphit sulfit metabisulph metabisulf wine$ wein$ vin$ vino$ wijn vermouth sulphured geschwefelt',
  lupin: 'lupin altramuz',
  molluscs:
    'mollus mussel muschel moule$ moules mejillon cozz oyster auster huitre ostra ostric clam$ clams vongol almeja squid tintenfisch calamar octopus pulpo polpo scallop jakobsmuschel snail schnecke escargot',
};

/** Names that hold such a word and are something else. */
const NOT =
  /buckwheat|buchweizen|ble noir|eggplant|nutmeg|butternut|butter bean|cream of tartar|fish ?mint|fishwort|oyster mushroom|oyster plant|oyster leaf|milk thistle|crab ?apple|cockscomb|muskatnuss|noix de muscade|nuez moscada|noce moscata|sea ?lettuce|water chestnut|chestnut mushroom|wheat ?free|gluten ?free/g;

const patternOf = (word: string): string => {
  const plain = word.replace('$', '').replace(/_/g, ' ');
  if (word.endsWith('$')) return `(?<![a-z])${plain}(?![a-z])`;
  return plain.length >= 5 ? plain : `(?:(?<![a-z])${plain}|${plain}(?![a-z]))`;
};
/** A flour of something that has no gluten: its own name still counts. */
const OTHER_FLOUR =
  /(?<=(?:rice|buckwheat|chickpea|gram|corn|maize|tapioca|potato|almond|coconut|soya?|teff|millet|quinoa|cassava|lupin) )flour|(?<=(?:reis|mais|buchweizen|kartoffel|kichererbsen|mandel|soja|lupinen|kastanien|kokos))mehl/g;

const PATTERNS = Object.entries(WORDS).map(
  ([allergen, words]) => [allergen as Allergen, new RegExp(words.split(' ').map(patternOf).join('|'))] as const,
);

/**
 * Allergens that the name of a material, or its list of contents, speaks of: to be confirmed or denied by a person. A
 * proposal, never a finding: what is not proposed may still hold one. Source: handbook 6.9, 7.
 * @example proposedAllergens('Fermented anchovy sauce') //=> ['fish']
 */
export function proposedAllergens(...texts: readonly (string | null | undefined)[]): Allergen[] {
  const plain = texts
    .filter(Boolean)
    .join(' ; ')
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/œ/g, 'oe')
    .replace(/ß/g, 'ss')
    .replace(/[-_]/g, ' ')
    .replace(OTHER_FLOUR, ' ')
    .replace(NOT, ' ');
  const found = new Set(PATTERNS.filter(([, pattern]) => pattern.test(plain)).map(([allergen]) => allergen));
  return ALLERGEN_KEYS.filter((key) => found.has(key));
}

export interface NamedMaterial {
  readonly name: string;
  readonly allergens: readonly string[];
  readonly mayContain?: readonly string[];
  readonly contents?: string | null;
  /** Said by a person not to be in it, although its name speaks of it. */
  readonly notAllergens?: readonly string[];
}

/** What the name speaks of and nobody has said yes or no to. */
export const undecidedAllergens = (material: NamedMaterial): Allergen[] =>
  proposedAllergens(material.name, material.contents).filter(
    (key) => ![...material.allergens, ...(material.mayContain ?? []), ...(material.notAllergens ?? [])].includes(key),
  );

/** A material is kept when somebody has said yes or no to every allergen its name speaks of. Source: handbook 7. */
export function decideAllergens(material: NamedMaterial): Outcome<void> {
  if (typeof material.name !== 'string') throw new RangeError('a material has a name');
  const open = undecidedAllergens(material);
  if (open.length === 0) return accept(undefined);
  return refuse(
    'material.allergenAsked',
    `“${material.name}”: by its name it may be or hold ${open.map((key) => ALLERGENS[key].words).join(', ')}. Say yes or no to each: it travels with every jar it goes into.`,
    { field: 'allergens', facts: { proposed: open } },
  );
}
