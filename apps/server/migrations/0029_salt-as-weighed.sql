-- A salt counts as it is weighed, water as it is poured; what a salt lacks of being pure stands as its purity.
ALTER TABLE material DISABLE TRIGGER USER;
--> statement-breakpoint
UPDATE material SET details = details || jsonb_build_object('purity', trim_scale(salt_fraction))
  WHERE kind = 'salt' AND salt_fraction >= 0.5 AND salt_fraction < 1 AND coalesce(details ->> 'purity', '') = '';
--> statement-breakpoint
UPDATE material SET water_fraction = 0, salt_fraction = 1 WHERE kind = 'salt';
--> statement-breakpoint
UPDATE material SET water_fraction = 1, salt_fraction = 0 WHERE kind = 'water';
--> statement-breakpoint
ALTER TABLE material ENABLE TRIGGER USER;
