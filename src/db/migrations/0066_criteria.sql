ALTER TABLE "item" ADD COLUMN "criteria" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "met" jsonb DEFAULT '[]'::jsonb NOT NULL;