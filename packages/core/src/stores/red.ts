const RED = /\b(red|beet(root)?s?|purple|paprika|cherr(y|ies)|raspberr(y|ies)|rhubarb|damsons?)\b/i;

/**
 * What a name says of a material's colour, until a person says otherwise: whether it brings a red of its own. It fills the
 * property once, when the material is added; no rule looks at a name.
 */
export const looksRed = (name: string): boolean => RED.test(name);
