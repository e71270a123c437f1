-- Which tab made an edit: undo is one's own.
ALTER TABLE edits ADD COLUMN tab TEXT NOT NULL DEFAULT '';
