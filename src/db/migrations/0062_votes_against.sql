ALTER TABLE "item_vote" ADD COLUMN "side" text DEFAULT 'for' NOT NULL;--> statement-breakpoint
ALTER TABLE "item_vote" ADD CONSTRAINT "item_vote_side" CHECK ("item_vote"."side" in ('for', 'against'));