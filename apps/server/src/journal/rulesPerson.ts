/** Who signs what a rule of the house decides by itself. Nobody signs in as it: it has no PIN. */
export const RULES_PERSON = {
  personId: '00000000-0000-7000-8000-0000000c1ea7',
  name: 'House rules',
  initials: '§',
  role: 'owner',
} as const;
