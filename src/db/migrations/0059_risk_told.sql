CREATE TABLE "risk_told" (
	"item_id" uuid NOT NULL,
	"due_on" date NOT NULL,
	"at" timestamp(3) with time zone NOT NULL,
	CONSTRAINT "risk_told_item_id_due_on_pk" PRIMARY KEY("item_id","due_on")
);
--> statement-breakpoint
ALTER TABLE "risk_told" ADD CONSTRAINT "risk_told_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;