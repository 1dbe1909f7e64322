/** Inner measures in mm. A taper has two diameters; a jar narrows to a neck above its body. */
export type InnerShape =
  | { readonly shape: 'cylinder'; readonly diameterMm: number; readonly heightMm: number }
  | { readonly shape: 'taper'; readonly topMm: number; readonly bottomMm: number; readonly heightMm: number }
  | {
      readonly shape: 'neck';
      readonly diameterMm: number;
      readonly heightMm: number;
      readonly neckMm: number;
      readonly neckHeightMm: number;
    };

/** mL of a shape filled to a height in mm from its floor. */
export function volumeToHeight(inner: InnerShape, heightMm: number): number {
  const h = Math.min(Math.max(0, heightMm), heightOf(inner));
  switch (inner.shape) {
    case 'cylinder':
      return disc(inner.diameterMm) * h;
    case 'taper': {
      const at = inner.bottomMm + ((inner.topMm - inner.bottomMm) * h) / inner.heightMm;
      return (Math.PI * h * (inner.bottomMm ** 2 + inner.bottomMm * at + at ** 2)) / 12 / 1000;
    }
    case 'neck': {
      const body = Math.min(h, inner.heightMm);
      return disc(inner.diameterMm) * body + disc(inner.neckMm) * (h - body);
    }
  }
}

/** mm from the brim down to the surface that leaves so much air. Source: handbook 2.6. */
export function headspaceMm(inner: InnerShape, headspaceMl: number): number {
  const brim = volumeToHeight(inner, heightOf(inner));
  const wanted = brim - Math.min(Math.max(0, headspaceMl), brim);
  let low = 0;
  let high = heightOf(inner);
  // The volume rises with the height in every shape: halving finds the surface.
  for (let i = 0; i < 40; i += 1) {
    const middle = (low + high) / 2;
    if (volumeToHeight(inner, middle) < wanted) low = middle;
    else high = middle;
  }
  return heightOf(inner) - (low + high) / 2;
}

/** mL of air above a surface so many mm under the brim. The way back of `headspaceMm`. */
export const headspaceMl = (inner: InnerShape, mm: number): number =>
  volumeToHeight(inner, heightOf(inner)) - volumeToHeight(inner, heightOf(inner) - mm);

/** Inner measures guessed from the brim when nobody has measured: the usual proportions of its kind. */
export function assumedInner(input: {
  kind: 'crock' | 'drum' | 'glass' | 'barrel' | 'bag' | 'pan';
  brimMl: number;
}): InnerShape {
  const { kind, brimMl } = input;
  if (kind === 'glass') {
    // A body 1.3 times as high as wide, and a neck of 0.6 the width that holds 6 %.
    const diameterMm = ((brimMl * 0.94 * 1000 * 4) / (Math.PI * 1.3)) ** (1 / 3);
    const neckMm = diameterMm * 0.6;
    return {
      shape: 'neck',
      diameterMm,
      heightMm: diameterMm * 1.3,
      neckMm,
      neckHeightMm: (brimMl * 0.06) / disc(neckMm),
    };
  }
  if (kind === 'drum') {
    // The floor is 0.85 of the top; as high as the top is wide.
    const topMm = ((brimMl * 1000 * 12) / (Math.PI * (0.85 ** 2 + 0.85 + 1))) ** (1 / 3);
    return { shape: 'taper', topMm, bottomMm: topMm * 0.85, heightMm: topMm };
  }
  const diameterMm = ((brimMl * 1000 * 4) / (Math.PI * 1.2)) ** (1 / 3);
  return { shape: 'cylinder', diameterMm, heightMm: diameterMm * 1.2 };
}

const heightOf = (inner: InnerShape): number =>
  inner.shape === 'neck' ? inner.heightMm + inner.neckHeightMm : inner.heightMm;
/** mL per mm of height. */
const disc = (diameterMm: number): number => (Math.PI * diameterMm ** 2) / 4 / 1000;
