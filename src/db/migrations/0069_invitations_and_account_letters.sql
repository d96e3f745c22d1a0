CREATE TABLE "account_letter" (
	"id" uuid PRIMARY KEY NOT NULL,
	"recipient" text NOT NULL,
	"subject" text NOT NULL,
	"body" text NOT NULL,
	"due_at" timestamp(3) with time zone NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"sent_at" timestamp(3) with time zone,
	"failed" text
);
--> statement-breakpoint
CREATE TABLE "invitation" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"role" text NOT NULL,
	"digest" text NOT NULL,
	"email" text,
	"made_by_id" text NOT NULL,
	"made_at" timestamp(3) with time zone NOT NULL,
	"until" timestamp(3) with time zone NOT NULL,
	"most_uses" integer NOT NULL,
	"uses" integer DEFAULT 0 NOT NULL,
	"revoked_at" timestamp(3) with time zone,
	CONSTRAINT "invitation_digest_unique" UNIQUE("digest"),
	CONSTRAINT "invitation_role" CHECK ("invitation"."role" in ('member', 'observer')),
	CONSTRAINT "invitation_uses" CHECK ("invitation"."uses" between 0 and "invitation"."most_uses")
);
--> statement-breakpoint
ALTER TABLE "invitation" ADD CONSTRAINT "invitation_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invitation" ADD CONSTRAINT "invitation_made_by_id_person_id_fk" FOREIGN KEY ("made_by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "account_letter_due" ON "account_letter" USING btree ("due_at") WHERE "account_letter"."sent_at" is null and "account_letter"."failed" is null;--> statement-breakpoint
CREATE INDEX "invitation_project" ON "invitation" USING btree ("project_id");