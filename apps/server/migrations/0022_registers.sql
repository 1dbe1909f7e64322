-- Rooms, vessels and people are changed by entries of their own; what they were is kept.
CREATE TRIGGER room_change AFTER UPDATE ON room FOR EACH ROW EXECUTE FUNCTION keep_change('id');
--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT UPDATE (name, usual_celsius, position) ON room TO clear_tally_app;
    GRANT UPDATE (name, initials, role) ON person TO clear_tally_app;
    GRANT UPDATE (shape, brim_ml, max_fill, min_fill, weight_volume_ml, closure, in_use, "inner") ON vessel TO clear_tally_app;
  END IF;
END $$;
