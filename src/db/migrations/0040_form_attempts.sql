CREATE TABLE "form_attempt" (
	"token" text PRIMARY KEY NOT NULL,
	"form_id" text NOT NULL,
	"values" jsonb NOT NULL,
	"errors" jsonb NOT NULL,
	"at" timestamp(3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE INDEX "form_attempt_at" ON "form_attempt" USING btree ("at");