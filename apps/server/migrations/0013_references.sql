-- What points at something points at something that is there. Asked at the end of a transaction: a journal row is
-- written last, because its facts are known only then.
ALTER TABLE lot ADD CONSTRAINT lot_batch_id_lot_id_fk FOREIGN KEY (batch_id) REFERENCES lot (id) DEFERRABLE INITIALLY DEFERRED;--> statement-breakpoint
ALTER TABLE lot ADD CONSTRAINT lot_formula_fk FOREIGN KEY (formula_id, formula_version) REFERENCES formula (formula_id, version) DEFERRABLE INITIALLY DEFERRED;--> statement-breakpoint
ALTER TABLE entry_lot ADD CONSTRAINT entry_lot_lot_id_lot_id_fk FOREIGN KEY (lot_id) REFERENCES lot (id) DEFERRABLE INITIALLY DEFERRED;--> statement-breakpoint
ALTER TABLE reading ADD CONSTRAINT reading_meter_id_meter_id_fk FOREIGN KEY (meter_id) REFERENCES meter (id) DEFERRABLE INITIALLY DEFERRED;--> statement-breakpoint
ALTER TABLE reading ADD CONSTRAINT reading_root_entry_id_journal_entry_id_fk FOREIGN KEY (root_entry_id) REFERENCES journal (entry_id) DEFERRABLE INITIALLY DEFERRED;--> statement-breakpoint
ALTER TABLE movement ADD CONSTRAINT movement_root_entry_id_journal_entry_id_fk FOREIGN KEY (root_entry_id) REFERENCES journal (entry_id) DEFERRABLE INITIALLY DEFERRED;--> statement-breakpoint
ALTER TABLE correction ADD CONSTRAINT correction_root_entry_id_journal_entry_id_fk FOREIGN KEY (root_entry_id) REFERENCES journal (entry_id) DEFERRABLE INITIALLY DEFERRED;--> statement-breakpoint
ALTER TABLE hold ADD CONSTRAINT hold_cause_lot_lot_id_fk FOREIGN KEY (cause_lot) REFERENCES lot (id) DEFERRABLE INITIALLY DEFERRED;
