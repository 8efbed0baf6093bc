-- How an occasion comes again where its date moves: a recurrence rule (RFC 5545), or days from Easter.
ALTER TABLE occasion ADD COLUMN recurs TEXT;

-- Countries whose public holidays are seen, as JSON; none until the writer chooses.
ALTER TABLE papers ADD COLUMN countries TEXT;
