CREATE TABLE "access_rule" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"state" text NOT NULL,
	"status" text NOT NULL,
	"effect" text NOT NULL,
	"landing" text NOT NULL,
	"message" text NOT NULL,
	"rank" integer NOT NULL,
	"audience" jsonb NOT NULL,
	"scope" jsonb NOT NULL,
	"place" jsonb NOT NULL,
	"schedule" jsonb NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "cart" (
	"id" text PRIMARY KEY NOT NULL,
	"lines" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "limit_rule" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"state" text NOT NULL,
	"status" text NOT NULL,
	"counting" text NOT NULL,
	"minimum" numeric,
	"maximum" numeric,
	"multiple" numeric,
	"first_value" numeric,
	"allowed_values" jsonb,
	"minimum_value" numeric,
	"maximum_value" numeric,
	"minimum_weight" numeric,
	"maximum_weight" numeric,
	"days" integer,
	"rank" integer NOT NULL,
	"audience" jsonb NOT NULL,
	"scope" jsonb NOT NULL,
	"place" jsonb NOT NULL,
	"schedule" jsonb NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "shop_order" (
	"number" integer PRIMARY KEY NOT NULL,
	"account" text,
	"visitor" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"document" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "passcode" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"word" text NOT NULL,
	"channel" text,
	"valid_from" text,
	"valid_to" text,
	"is_review" boolean NOT NULL,
	"status" text NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "tax_class" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"position" integer NOT NULL,
	"status" text NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "tax_rate" (
	"id" text PRIMARY KEY NOT NULL,
	"tax" text NOT NULL,
	"tax_class" text,
	"country" text NOT NULL,
	"state" text NOT NULL,
	"postcode" text NOT NULL,
	"city" text NOT NULL,
	"percent" numeric NOT NULL,
	"valid_from" text,
	"valid_to" text,
	"reason" text NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "tax" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"upon" jsonb NOT NULL,
	"on_delivery" boolean NOT NULL,
	"position" integer NOT NULL,
	"status" text NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "state" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "account" ALTER COLUMN "state" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "postcode" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "account" ALTER COLUMN "postcode" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "exemption" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "account" ALTER COLUMN "exemption" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "exempt_until" text;--> statement-breakpoint
ALTER TABLE "channel" ADD COLUMN "gate" text DEFAULT 'open' NOT NULL;--> statement-breakpoint
ALTER TABLE "channel" ALTER COLUMN "gate" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "channel" ADD COLUMN "assortment" jsonb;--> statement-breakpoint
ALTER TABLE "contract" ADD COLUMN "assortment" jsonb;--> statement-breakpoint
ALTER TABLE "customer_group" ADD COLUMN "tax_display" text;--> statement-breakpoint
ALTER TABLE "customer_group" ADD COLUMN "cart_tax_display" text;--> statement-breakpoint
ALTER TABLE "product" ADD COLUMN "tax_class" text;--> statement-breakpoint
ALTER TABLE "product" ADD COLUMN "limits" jsonb DEFAULT '{"minimum":null,"maximum":null,"multiple":null,"first":null,"values":null}' NOT NULL;--> statement-breakpoint
ALTER TABLE "product" ALTER COLUMN "limits" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "region" ADD COLUMN "cart_tax_display" text DEFAULT 'gross' NOT NULL;--> statement-breakpoint
ALTER TABLE "region" ALTER COLUMN "cart_tax_display" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "tax_place" text DEFAULT 'delivery' NOT NULL;--> statement-breakpoint
ALTER TABLE "settings" ALTER COLUMN "tax_place" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "tax_rounding" text DEFAULT 'line' NOT NULL;--> statement-breakpoint
ALTER TABLE "settings" ALTER COLUMN "tax_rounding" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "gross_elsewhere" text DEFAULT 'keep-gross' NOT NULL;--> statement-breakpoint
ALTER TABLE "settings" ALTER COLUMN "gross_elsewhere" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "tax_totals" text DEFAULT 'by-name' NOT NULL;--> statement-breakpoint
ALTER TABLE "settings" ALTER COLUMN "tax_totals" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "tax_class" text;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "delivery_tax_class" text;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "union_countries" jsonb DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE "settings" ALTER COLUMN "union_countries" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "tax_registrations" jsonb DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "settings" ALTER COLUMN "tax_registrations" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "delivery_price" numeric;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "delivery_free_from" numeric;--> statement-breakpoint
ALTER TABLE "variant" ADD COLUMN "tax_class" text;--> statement-breakpoint
ALTER TABLE "variant" ADD COLUMN "limits" jsonb DEFAULT '{"minimum":null,"maximum":null,"multiple":null,"first":null,"values":null}' NOT NULL;--> statement-breakpoint
ALTER TABLE "variant" ALTER COLUMN "limits" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "passcode" ADD CONSTRAINT "passcode_channel_channel_id_fk" FOREIGN KEY ("channel") REFERENCES "public"."channel"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tax_rate" ADD CONSTRAINT "tax_rate_tax_tax_id_fk" FOREIGN KEY ("tax") REFERENCES "public"."tax"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tax_rate" ADD CONSTRAINT "tax_rate_tax_class_tax_class_id_fk" FOREIGN KEY ("tax_class") REFERENCES "public"."tax_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "access_rule_code" ON "access_rule" USING btree (lower("code"));--> statement-breakpoint
CREATE UNIQUE INDEX "limit_rule_code" ON "limit_rule" USING btree (lower("code"));--> statement-breakpoint
CREATE INDEX "shop_order_account" ON "shop_order" USING btree ("account");--> statement-breakpoint
CREATE UNIQUE INDEX "passcode_code" ON "passcode" USING btree (lower("code"));--> statement-breakpoint
CREATE UNIQUE INDEX "tax_class_code" ON "tax_class" USING btree (lower("code"));--> statement-breakpoint
CREATE UNIQUE INDEX "tax_code" ON "tax" USING btree (lower("code"));--> statement-breakpoint
ALTER TABLE "product" ADD CONSTRAINT "product_tax_class_tax_class_id_fk" FOREIGN KEY ("tax_class") REFERENCES "public"."tax_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "variant" ADD CONSTRAINT "variant_tax_class_tax_class_id_fk" FOREIGN KEY ("tax_class") REFERENCES "public"."tax_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
UPDATE "region" SET "cart_tax_display" = "tax_display";
--> statement-breakpoint
UPDATE "change" SET "before" = '{"taxPlace":"delivery","taxRounding":"line","grossElsewhere":"keep-gross","taxTotals":"by-name","taxClass":null,"deliveryTaxClass":null,"unionCountries":[],"taxRegistrations":{},"deliveryPrice":null,"deliveryFreeFrom":null}'::jsonb || "before" WHERE "kind" = 'settings' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = '{"gate":"open","assortment":null}'::jsonb || "before" WHERE "kind" = 'channel' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = '{"taxDisplay":null,"cartTaxDisplay":null}'::jsonb || "before" WHERE "kind" = 'group' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = '{"state":"","postcode":"","exemption":"","exemptUntil":null}'::jsonb || "before" WHERE "kind" = 'account' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = '{"taxClass":null,"limits":{"minimum":null,"maximum":null,"multiple":null,"first":null,"values":null}}'::jsonb || "before" WHERE "kind" = 'product' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = '{"taxClass":null,"limits":{"minimum":null,"maximum":null,"multiple":null,"first":null,"values":null}}'::jsonb || "before" WHERE "kind" = 'variant' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = '{"assortment":null}'::jsonb || "before" WHERE "kind" = 'contract' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = jsonb_build_object('cartTaxDisplay', "before" -> 'taxDisplay') || "before" WHERE "kind" = 'region' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"taxPlace":"delivery","taxRounding":"line","grossElsewhere":"keep-gross","taxTotals":"by-name","taxClass":null,"deliveryTaxClass":null,"unionCountries":[],"taxRegistrations":{},"deliveryPrice":null,"deliveryFreeFrom":null}'::jsonb || "after" WHERE "kind" = 'settings' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"gate":"open","assortment":null}'::jsonb || "after" WHERE "kind" = 'channel' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"taxDisplay":null,"cartTaxDisplay":null}'::jsonb || "after" WHERE "kind" = 'group' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"state":"","postcode":"","exemption":"","exemptUntil":null}'::jsonb || "after" WHERE "kind" = 'account' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"taxClass":null,"limits":{"minimum":null,"maximum":null,"multiple":null,"first":null,"values":null}}'::jsonb || "after" WHERE "kind" = 'product' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"taxClass":null,"limits":{"minimum":null,"maximum":null,"multiple":null,"first":null,"values":null}}'::jsonb || "after" WHERE "kind" = 'variant' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"assortment":null}'::jsonb || "after" WHERE "kind" = 'contract' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = jsonb_build_object('cartTaxDisplay', "after" -> 'taxDisplay') || "after" WHERE "kind" = 'region' AND jsonb_typeof("after") = 'object';
