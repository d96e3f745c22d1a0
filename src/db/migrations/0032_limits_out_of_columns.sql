ALTER TABLE "board_column" DROP CONSTRAINT "board_column_limits";--> statement-breakpoint
ALTER TABLE "board_column" DROP COLUMN "min";--> statement-breakpoint
ALTER TABLE "board_column" DROP COLUMN "max";--> statement-breakpoint
ALTER TABLE "board_column" DROP COLUMN "min_firm";--> statement-breakpoint
ALTER TABLE "board_column" DROP COLUMN "max_firm";