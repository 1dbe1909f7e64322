-- A salt counts as it is weighed, water as it is poured; what a salt lacks of being pure stands as its purity. One of which
-- less than 95 % is salt is a blend, and counts what is salt in it.
ALTER TABLE material DISABLE TRIGGER USER;
--> statement-breakpoint
UPDATE material SET water_fraction = 0, salt_fraction = 1,
    details = CASE WHEN salt_fraction < 1 AND coalesce(details ->> 'purity', '') = ''
      THEN details || jsonb_build_object('purity', trim_scale(salt_fraction)) ELSE details END
  WHERE kind = 'salt' AND least(salt_fraction, coalesce((details ->> 'purity')::numeric, 1)) >= 0.95;
--> statement-breakpoint
UPDATE material SET salt_fraction = least(salt_fraction, (details ->> 'purity')::numeric),
    water_fraction = least(water_fraction, 1 - least(salt_fraction, (details ->> 'purity')::numeric))
  WHERE kind = 'salt' AND (details ->> 'purity')::numeric < 0.95;
--> statement-breakpoint
UPDATE material SET water_fraction = 1, salt_fraction = 0 WHERE kind = 'water';
--> statement-breakpoint
ALTER TABLE material ENABLE TRIGGER USER;
