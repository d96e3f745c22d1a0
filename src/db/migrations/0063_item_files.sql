CREATE TABLE "item_file" (
	"id" uuid PRIMARY KEY NOT NULL,
	"item_id" uuid NOT NULL,
	"name" text NOT NULL,
	"media_type" text NOT NULL,
	"sha256" text NOT NULL,
	"size" integer NOT NULL,
	"width" integer,
	"height" integer,
	"by_id" text,
	"at" timestamp(3) with time zone NOT NULL,
	"removed_at" timestamp(3) with time zone,
	CONSTRAINT "item_file_name" CHECK (length("item_file"."name") between 1 and 200),
	CONSTRAINT "item_file_picture" CHECK (("item_file"."width" is null) = ("item_file"."height" is null))
);
--> statement-breakpoint
ALTER TABLE "item_file" ADD CONSTRAINT "item_file_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_file" ADD CONSTRAINT "item_file_sha256_stored_file_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."stored_file"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_file" ADD CONSTRAINT "item_file_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "item_file_item" ON "item_file" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "item_file_content" ON "item_file" USING btree ("sha256");