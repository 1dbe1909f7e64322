/** The made-up people of the demo house. Their PINs are public: they are printed at start and shown at sign-in. */
export const DEMO_PEOPLE = [
  { key: 'odile', name: 'Odile Marr', initials: 'OM', role: 'owner', pin: '2711' },
  { key: 'tomasz', name: 'Tomasz Reyk', initials: 'TR', role: 'maker', pin: '4840' },
  { key: 'ines', name: 'Ines Calloway', initials: 'IC', role: 'maker', pin: '1963' },
  { key: 'inspector', name: 'Visiting inspector', initials: 'VI', role: 'inspector', pin: '5050' },
] as const;
