ALTER TABLE "release" DROP CONSTRAINT "release_project_id_project_id_fk";
--> statement-breakpoint
ALTER TABLE "sprint" DROP CONSTRAINT "sprint_project_id_project_id_fk";
--> statement-breakpoint
DROP INDEX "release_project";--> statement-breakpoint
DROP INDEX "sprint_project";--> statement-breakpoint
ALTER TABLE "release" ALTER COLUMN "owner_kind" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "release" ALTER COLUMN "owner_id" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "release" ALTER COLUMN "zone" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "sprint" ALTER COLUMN "owner_kind" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "sprint" ALTER COLUMN "owner_id" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "sprint" ALTER COLUMN "zone" DROP DEFAULT;--> statement-breakpoint
CREATE INDEX "release_owner_of" ON "release" USING btree ("owner_kind","owner_id");--> statement-breakpoint
CREATE INDEX "sprint_owner_days" ON "sprint" USING btree ("owner_kind","owner_id","starts_on");--> statement-breakpoint
ALTER TABLE "release" DROP COLUMN "project_id";--> statement-breakpoint
ALTER TABLE "sprint" DROP COLUMN "project_id";