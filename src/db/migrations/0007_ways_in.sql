ALTER TABLE "report" ADD COLUMN "way" text DEFAULT 'form' NOT NULL;--> statement-breakpoint
ALTER TABLE "report" ADD COLUMN "import_id" uuid;--> statement-breakpoint
ALTER TABLE "report" ADD COLUMN "import_part" integer;--> statement-breakpoint
CREATE INDEX "report_import" ON "report" USING btree ("import_id");