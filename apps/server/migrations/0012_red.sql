-- Whether a material brings a red of its own is its property; those that stand there have it by their names, once.
UPDATE material SET details = details || jsonb_build_object('red', name ~* '\y(red|beet(root)?s?|purple|paprika|cherr(y|ies)|raspberr(y|ies)|rhubarb|damsons?)\y') WHERE NOT details ? 'red';
