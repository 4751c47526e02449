CREATE TABLE "order_event" (
	"order_number" integer NOT NULL,
	"version" integer NOT NULL,
	"event" jsonb NOT NULL,
	CONSTRAINT "order_event_order_number_version_pk" PRIMARY KEY("order_number","version")
);
--> statement-breakpoint
DROP INDEX "shop_order_account";--> statement-breakpoint
ALTER TABLE "shop_order" ADD COLUMN "state" text DEFAULT 'placed' NOT NULL;--> statement-breakpoint
ALTER TABLE "shop_order" ALTER COLUMN "state" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "shop_order" ADD COLUMN "version" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "shop_order" ALTER COLUMN "version" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "shop_order" ADD COLUMN "buyer" text;--> statement-breakpoint
ALTER TABLE "shop_order" ADD COLUMN "currency" text;--> statement-breakpoint
ALTER TABLE "shop_order" ADD COLUMN "due" numeric;--> statement-breakpoint
UPDATE "shop_order" SET "buyer" = lower("document" ->> 'buyer'), "currency" = "document" ->> 'currency', "due" = ("document" -> 'total' ->> 'gross')::numeric;--> statement-breakpoint
ALTER TABLE "shop_order" ALTER COLUMN "buyer" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "shop_order" ALTER COLUMN "currency" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "shop_order" ALTER COLUMN "due" SET NOT NULL;--> statement-breakpoint
INSERT INTO "number_series" VALUES ('invoice', 1), ('credit-note', 1), ('delivery-note', 1);--> statement-breakpoint
ALTER TABLE "order_event" ADD CONSTRAINT "order_event_order_number_shop_order_number_fk" FOREIGN KEY ("order_number") REFERENCES "public"."shop_order"("number") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "shop_order_state" ON "shop_order" USING btree ("state","number");--> statement-breakpoint
CREATE INDEX "shop_order_at" ON "shop_order" USING btree ("at");--> statement-breakpoint
CREATE INDEX "shop_order_account" ON "shop_order" USING btree ("account","number");