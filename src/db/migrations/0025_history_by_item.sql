DROP INDEX "block_item";--> statement-breakpoint
DROP INDEX "comment_item";--> statement-breakpoint
ALTER TABLE "block" DROP CONSTRAINT "block_pkey";--> statement-breakpoint
ALTER TABLE "comment" DROP CONSTRAINT "comment_pkey";--> statement-breakpoint
ALTER TABLE "block" ADD CONSTRAINT "block_item_id_id_pk" PRIMARY KEY("item_id","id");--> statement-breakpoint
ALTER TABLE "comment" ADD CONSTRAINT "comment_item_id_id_pk" PRIMARY KEY("item_id","id");
