CREATE TABLE "release_tag" (
	"release_id" text NOT NULL,
	"repository_id" uuid NOT NULL,
	"name" text NOT NULL,
	"commit" text NOT NULL,
	"asked_by" text NOT NULL,
	"asked_at" timestamp(3) with time zone NOT NULL,
	"refused" text,
	"tag_at" timestamp(3) with time zone,
	CONSTRAINT "release_tag_release_id_repository_id_pk" PRIMARY KEY("release_id","repository_id")
);
--> statement-breakpoint
ALTER TABLE "mail_out" ADD COLUMN "takes_back" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "withdrawn_at" timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "withdrawn_why" text;--> statement-breakpoint
ALTER TABLE "release_tag" ADD CONSTRAINT "release_tag_release_id_release_id_fk" FOREIGN KEY ("release_id") REFERENCES "public"."release"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "release_tag" ADD CONSTRAINT "release_tag_repository_id_code_repository_id_fk" FOREIGN KEY ("repository_id") REFERENCES "public"."code_repository"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "release_tag" ADD CONSTRAINT "release_tag_asked_by_person_id_fk" FOREIGN KEY ("asked_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "release" ADD CONSTRAINT "release_withdrawn" CHECK (("release"."withdrawn_at" is null) = ("release"."withdrawn_why" is null));