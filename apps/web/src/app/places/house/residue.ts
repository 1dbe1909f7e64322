/** What stays on a surface and harms a ferment, or whoever eats it, when it is not rinsed off. Source: handbook 6. */
const RESIDUE =
  /\b(?:bleach|hypochlorit\w*|chlor\w*|lye|caustic\w*|soda ash|washing soda|detergent\w*|soap\w*|soapy|degreas\w*|iod\w*|quat\w*|ammoni\w*|acid (?:cleaner|rinse)|descal\w*|perboric|percarbonat\w*)\b/i;

/** Whether an agent asks for a rinse unless its own sheet says otherwise. */
export const leavesResidue = (agent: string): boolean => RESIDUE.test(agent);
