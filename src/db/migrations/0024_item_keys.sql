CREATE TABLE "item_key" (
	"prefix" text NOT NULL,
	"number" integer NOT NULL,
	"item_id" uuid NOT NULL,
	"since" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "item_key_prefix_number_pk" PRIMARY KEY("prefix","number")
);
--> statement-breakpoint
ALTER TABLE "item_key" ADD CONSTRAINT "item_key_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "item_key_item" ON "item_key" USING btree ("item_id");--> statement-breakpoint
INSERT INTO item_key (prefix, number, item_id, since) SELECT p.key, i.number, i.id, i.created_at FROM item i JOIN project p ON p.id = i.project_id;
