-- Which version of the site document a credential's name is of. Those of version 4 are called otherwise since 5; they
-- are sealed under their name, so that they are opened and sealed anew as soon as the key is at hand (credentials.ts).
ALTER TABLE credentials ADD COLUMN named INTEGER NOT NULL DEFAULT 5;
UPDATE credentials SET named = 4;
-- What a flash was made with, to be offered again.
ALTER TABLE flashes ADD COLUMN versions TEXT NOT NULL DEFAULT '{}';
