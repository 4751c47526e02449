CREATE TABLE "number_series" (
	"name" text PRIMARY KEY NOT NULL,
	"next" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "stock_level" (
	"variant" text PRIMARY KEY NOT NULL,
	"on_hand" numeric,
	"reserved" numeric NOT NULL
);
--> statement-breakpoint
CREATE TABLE "stock_movement" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"variant" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"kind" text NOT NULL,
	"before" numeric,
	"after" numeric,
	"reserved" numeric NOT NULL,
	"order_number" integer,
	"change_set" integer,
	"author" text NOT NULL,
	"note" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "product" ADD COLUMN "back_order" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "product" ALTER COLUMN "back_order" DROP DEFAULT;--> statement-breakpoint
CREATE INDEX "stock_movement_variant" ON "stock_movement" USING btree ("variant","id");--> statement-breakpoint
CREATE INDEX "stock_movement_at" ON "stock_movement" USING btree ("at");--> statement-breakpoint
CREATE INDEX "stock_movement_order" ON "stock_movement" USING btree ("order_number");--> statement-breakpoint
CREATE INDEX "stock_movement_change_set" ON "stock_movement" USING btree ("change_set");--> statement-breakpoint
INSERT INTO "number_series" SELECT 'order', coalesce(max("number"), 10000) + 1 FROM "shop_order";--> statement-breakpoint
INSERT INTO "stock_level" SELECT "id", greatest("stock", 0), greatest(-"stock", 0) FROM "variant" WHERE "stock" IS NOT NULL;--> statement-breakpoint
INSERT INTO "stock_movement" ("variant", "at", "kind", "after", "reserved", "author", "note")
	SELECT "variant", now(), 'counted', "on_hand", "reserved", 'Steppe', 'As it was before stock had a ledger' FROM "stock_level";--> statement-breakpoint
ALTER TABLE "variant" DROP COLUMN "stock";--> statement-breakpoint
UPDATE "change" SET "before" = "before" - 'stock', "after" = "after" - 'stock' WHERE "kind" = 'variant';--> statement-breakpoint
UPDATE "draft_change" SET "before" = "before" - 'stock', "after" = "after" - 'stock', "base" = "base" - 'stock' WHERE "kind" = 'variant';--> statement-breakpoint
UPDATE "change" SET "before" = "before" || '{"backOrder": true}', "after" = "after" || '{"backOrder": true}' WHERE "kind" = 'product';--> statement-breakpoint
UPDATE "draft_change" SET "before" = "before" || '{"backOrder": true}', "after" = "after" || '{"backOrder": true}', "base" = "base" || '{"backOrder": true}' WHERE "kind" = 'product';--> statement-breakpoint
DELETE FROM "change" WHERE "change_set" IN (SELECT "id" FROM "change_set" WHERE "author" = 'Shop');--> statement-breakpoint
DELETE FROM "change_set" WHERE "author" = 'Shop' AND "id" NOT IN (SELECT "undoes" FROM "change_set" WHERE "undoes" IS NOT NULL);