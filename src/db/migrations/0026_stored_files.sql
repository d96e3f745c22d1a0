CREATE TABLE "stored_file" (
	"sha256" text PRIMARY KEY NOT NULL,
	"size" bigint NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	"content" "bytea",
	CONSTRAINT "stored_file_digest" CHECK ("stored_file"."sha256" ~ '^[0-9a-f]{64}$')
);
--> statement-breakpoint
ALTER TABLE "report_file" ADD COLUMN "sha256" text;--> statement-breakpoint
-- The bytes of files stay here until the product, when it starts, moves them to its folder.
INSERT INTO stored_file (sha256, size, at, content)
SELECT DISTINCT ON (encode(sha256(content), 'hex')) encode(sha256(content), 'hex'), length(content), at, content
FROM report_file ORDER BY encode(sha256(content), 'hex'), at;--> statement-breakpoint
UPDATE report_file SET sha256 = encode(sha256(content), 'hex');--> statement-breakpoint
ALTER TABLE "report_file" ALTER COLUMN "sha256" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "report_file" ADD CONSTRAINT "report_file_sha256_stored_file_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."stored_file"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "report_file_content" ON "report_file" USING btree ("sha256");