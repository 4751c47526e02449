CREATE TABLE "adjustment" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"state" text NOT NULL,
	"status" text NOT NULL,
	"target" text NOT NULL,
	"method" jsonb NOT NULL,
	"rounding" jsonb,
	"rank" integer NOT NULL,
	"audience" jsonb NOT NULL,
	"scope" jsonb NOT NULL,
	"place" jsonb NOT NULL,
	"schedule" jsonb NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "channel" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"groups" jsonb NOT NULL,
	"position" integer NOT NULL,
	"status" text NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "contract" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"state" text NOT NULL,
	"accounts" jsonb NOT NULL,
	"groups" jsonb NOT NULL,
	"valid_from" text,
	"valid_to" text,
	"lists" jsonb NOT NULL,
	"rank" integer NOT NULL,
	"currency" text,
	"policy" text,
	"minimum_order" numeric,
	"payment_terms" text NOT NULL,
	"is_protected" boolean NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "currency" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"fee" numeric NOT NULL,
	"rounding" jsonb,
	"price_digits" integer NOT NULL,
	"age_limit" integer,
	"status" text NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "exchange_rate" (
	"id" text PRIMARY KEY NOT NULL,
	"currency" text NOT NULL,
	"per" text NOT NULL,
	"rate" numeric NOT NULL,
	"valid_from" text NOT NULL,
	"source" text NOT NULL,
	"revision" integer NOT NULL,
	CONSTRAINT "exchange_rate_rate" CHECK ("exchange_rate"."rate" > 0)
);
--> statement-breakpoint
CREATE TABLE "extra" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"scope" jsonb NOT NULL,
	"base_price" numeric,
	"cost" numeric,
	"own_prices" jsonb NOT NULL,
	"position" integer NOT NULL,
	"status" text NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "price_family" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"status" text NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "region" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"countries" jsonb NOT NULL,
	"currency" text,
	"rounding" jsonb,
	"tax_display" text NOT NULL,
	"is_default" boolean NOT NULL,
	"position" integer NOT NULL,
	"status" text NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "tax_basis" text DEFAULT 'net' NOT NULL;
--> statement-breakpoint
ALTER TABLE "settings" ALTER COLUMN "tax_basis" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "policy" text DEFAULT 'first' NOT NULL;
--> statement-breakpoint
ALTER TABLE "settings" ALTER COLUMN "policy" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "never_above_public" boolean DEFAULT false NOT NULL;
--> statement-breakpoint
ALTER TABLE "settings" ALTER COLUMN "never_above_public" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "compared_with" text DEFAULT 'public' NOT NULL;
--> statement-breakpoint
ALTER TABLE "settings" ALTER COLUMN "compared_with" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "category" ADD COLUMN "status" text DEFAULT 'active' NOT NULL;
--> statement-breakpoint
ALTER TABLE "category" ALTER COLUMN "status" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "customer_group" ADD COLUMN "status" text DEFAULT 'active' NOT NULL;
--> statement-breakpoint
ALTER TABLE "customer_group" ALTER COLUMN "status" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "status" text DEFAULT 'active' NOT NULL;
--> statement-breakpoint
ALTER TABLE "account" ALTER COLUMN "status" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "variant" ADD COLUMN "status" text DEFAULT 'active' NOT NULL;
--> statement-breakpoint
ALTER TABLE "variant" ALTER COLUMN "status" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "price_list" ADD COLUMN "status" text DEFAULT 'active' NOT NULL;
--> statement-breakpoint
ALTER TABLE "price_list" ALTER COLUMN "status" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "product" ADD COLUMN "floor" numeric;
--> statement-breakpoint
ALTER TABLE "product" ADD COLUMN "own_amounts" jsonb DEFAULT '{}'::jsonb NOT NULL;
--> statement-breakpoint
ALTER TABLE "product" ALTER COLUMN "own_amounts" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "product" ADD COLUMN "family" text;
--> statement-breakpoint
ALTER TABLE "variant" ADD COLUMN "floor" numeric;
--> statement-breakpoint
ALTER TABLE "variant" ADD COLUMN "own_amounts" jsonb DEFAULT '{}'::jsonb NOT NULL;
--> statement-breakpoint
ALTER TABLE "variant" ALTER COLUMN "own_amounts" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "variant" ADD COLUMN "family" text;
--> statement-breakpoint
ALTER TABLE "variant" ADD COLUMN "stock" numeric;
--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "addresses" jsonb DEFAULT '[]'::jsonb NOT NULL;
--> statement-breakpoint
ALTER TABLE "account" ALTER COLUMN "addresses" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "currency" text;
--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "tax_number" text DEFAULT '' NOT NULL;
--> statement-breakpoint
ALTER TABLE "account" ALTER COLUMN "tax_number" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "payment_terms" text DEFAULT '' NOT NULL;
--> statement-breakpoint
ALTER TABLE "account" ALTER COLUMN "payment_terms" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "price_list" ADD COLUMN "currency" text DEFAULT '' NOT NULL;
--> statement-breakpoint
ALTER TABLE "price_list" ALTER COLUMN "currency" DROP DEFAULT;
--> statement-breakpoint
UPDATE "price_list" SET "currency" = (SELECT "currency" FROM "settings");
--> statement-breakpoint
ALTER TABLE "price_list" ADD COLUMN "tax_basis" text DEFAULT 'net' NOT NULL;
--> statement-breakpoint
ALTER TABLE "price_list" ALTER COLUMN "tax_basis" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "price_list" ADD COLUMN "scope" jsonb DEFAULT '{"include":[{"kind":"everything"}],"exclude":[]}'::jsonb NOT NULL;
--> statement-breakpoint
ALTER TABLE "price_list" ALTER COLUMN "scope" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "price_list" ADD COLUMN "place" jsonb DEFAULT '{"include":[],"exclude":[]}'::jsonb NOT NULL;
--> statement-breakpoint
ALTER TABLE "price_list" ALTER COLUMN "place" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "price_list" ADD COLUMN "schedule" jsonb DEFAULT '{"from":null,"to":null,"months":[],"weekdays":[],"hours":null,"overrides":{}}'::jsonb NOT NULL;
--> statement-breakpoint
ALTER TABLE "price_list" ALTER COLUMN "schedule" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "price_list" ADD COLUMN "only_listed" boolean DEFAULT false NOT NULL;
--> statement-breakpoint
ALTER TABLE "price_list" ALTER COLUMN "only_listed" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "price_list" DROP CONSTRAINT "price_list_audience";
--> statement-breakpoint
UPDATE "price_list" SET "default_line" = jsonb_build_object('breaks', jsonb_build_array(jsonb_build_object('from', '0', 'method', CASE WHEN "default_line" ? 'reference' THEN jsonb_set("default_line", '{reference}', '{"kind":"base"}'::jsonb) ELSE "default_line" END)), 'counting', 'variant', 'pricing', 'all-units') WHERE "default_line" IS NOT NULL AND jsonb_typeof("default_line") = 'object';
--> statement-breakpoint
ALTER TABLE "price_line" ADD COLUMN "schedule" jsonb;
--> statement-breakpoint
ALTER TABLE "price_line" ADD COLUMN "breaks" jsonb DEFAULT '[]'::jsonb NOT NULL;
--> statement-breakpoint
ALTER TABLE "price_line" ALTER COLUMN "breaks" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "price_line" ADD COLUMN "counting" text DEFAULT 'variant' NOT NULL;
--> statement-breakpoint
ALTER TABLE "price_line" ALTER COLUMN "counting" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "price_line" ADD COLUMN "pricing" text DEFAULT 'all-units' NOT NULL;
--> statement-breakpoint
ALTER TABLE "price_line" ALTER COLUMN "pricing" DROP DEFAULT;
--> statement-breakpoint
UPDATE "price_line" SET "breaks" = jsonb_build_array(jsonb_build_object('from', '0', 'method', CASE WHEN "method" ? 'reference' THEN jsonb_set("method", '{reference}', '{"kind":"base"}'::jsonb) ELSE "method" END));
--> statement-breakpoint
ALTER TABLE "price_line" DROP COLUMN "method";
--> statement-breakpoint
UPDATE "change" SET "before" = '{"taxBasis":"net","policy":"first","neverAbovePublic":false,"comparedWith":"public"}'::jsonb || "before" WHERE "kind" = 'settings' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = '{"status":"active"}'::jsonb || "before" WHERE "kind" = 'category' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = '{"status":"active"}'::jsonb || "before" WHERE "kind" = 'group' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = '{"status":"active","addresses":[],"currency":null,"taxNumber":"","paymentTerms":""}'::jsonb || "before" WHERE "kind" = 'account' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = '{"floor":null,"ownAmounts":{},"family":null}'::jsonb || "before" WHERE "kind" = 'product' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = '{"floor":null,"ownAmounts":{},"family":null,"stock":null,"status":"active"}'::jsonb || "before" WHERE "kind" = 'variant' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = ('{"status":"active","taxBasis":"net","scope":{"include":[{"kind":"everything"}],"exclude":[]},"place":{"include":[],"exclude":[]},"schedule":{"from":null,"to":null,"months":[],"weekdays":[],"hours":null,"overrides":{}},"onlyListed":false}'::jsonb || "before") || jsonb_build_object('currency', (SELECT "currency" FROM "settings"), 'defaultLine', CASE WHEN jsonb_typeof("before" -> 'defaultLine') = 'object' THEN jsonb_build_object('breaks', jsonb_build_array(jsonb_build_object('from', '0', 'method', CASE WHEN ("before" -> 'defaultLine') ? 'reference' THEN jsonb_set(("before" -> 'defaultLine'), '{reference}', '{"kind":"base"}'::jsonb) ELSE ("before" -> 'defaultLine') END)), 'counting', 'variant', 'pricing', 'all-units') ELSE 'null'::jsonb END) WHERE "kind" = 'price-list' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "before" = ("before" - 'method') || jsonb_build_object('schedule', NULL) || jsonb_build_object('breaks', jsonb_build_array(jsonb_build_object('from', '0', 'method', CASE WHEN ("before" -> 'method') ? 'reference' THEN jsonb_set(("before" -> 'method'), '{reference}', '{"kind":"base"}'::jsonb) ELSE ("before" -> 'method') END)), 'counting', 'variant', 'pricing', 'all-units') WHERE "kind" = 'price-line' AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"taxBasis":"net","policy":"first","neverAbovePublic":false,"comparedWith":"public"}'::jsonb || "after" WHERE "kind" = 'settings' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"status":"active"}'::jsonb || "after" WHERE "kind" = 'category' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"status":"active"}'::jsonb || "after" WHERE "kind" = 'group' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"status":"active","addresses":[],"currency":null,"taxNumber":"","paymentTerms":""}'::jsonb || "after" WHERE "kind" = 'account' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"floor":null,"ownAmounts":{},"family":null}'::jsonb || "after" WHERE "kind" = 'product' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"floor":null,"ownAmounts":{},"family":null,"stock":null,"status":"active"}'::jsonb || "after" WHERE "kind" = 'variant' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = ('{"status":"active","taxBasis":"net","scope":{"include":[{"kind":"everything"}],"exclude":[]},"place":{"include":[],"exclude":[]},"schedule":{"from":null,"to":null,"months":[],"weekdays":[],"hours":null,"overrides":{}},"onlyListed":false}'::jsonb || "after") || jsonb_build_object('currency', (SELECT "currency" FROM "settings"), 'defaultLine', CASE WHEN jsonb_typeof("after" -> 'defaultLine') = 'object' THEN jsonb_build_object('breaks', jsonb_build_array(jsonb_build_object('from', '0', 'method', CASE WHEN ("after" -> 'defaultLine') ? 'reference' THEN jsonb_set(("after" -> 'defaultLine'), '{reference}', '{"kind":"base"}'::jsonb) ELSE ("after" -> 'defaultLine') END)), 'counting', 'variant', 'pricing', 'all-units') ELSE 'null'::jsonb END) WHERE "kind" = 'price-list' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = ("after" - 'method') || jsonb_build_object('schedule', NULL) || jsonb_build_object('breaks', jsonb_build_array(jsonb_build_object('from', '0', 'method', CASE WHEN ("after" -> 'method') ? 'reference' THEN jsonb_set(("after" -> 'method'), '{reference}', '{"kind":"base"}'::jsonb) ELSE ("after" -> 'method') END)), 'counting', 'variant', 'pricing', 'all-units') WHERE "kind" = 'price-line' AND jsonb_typeof("after") = 'object';
--> statement-breakpoint
ALTER TABLE "exchange_rate" ADD CONSTRAINT "exchange_rate_currency_currency_id_fk" FOREIGN KEY ("currency") REFERENCES "public"."currency"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "product" ADD CONSTRAINT "product_family_price_family_id_fk" FOREIGN KEY ("family") REFERENCES "public"."price_family"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "variant" ADD CONSTRAINT "variant_family_price_family_id_fk" FOREIGN KEY ("family") REFERENCES "public"."price_family"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
CREATE UNIQUE INDEX "adjustment_code" ON "adjustment" USING btree (lower("code"));
--> statement-breakpoint
CREATE UNIQUE INDEX "channel_code" ON "channel" USING btree (lower("code"));
--> statement-breakpoint
CREATE UNIQUE INDEX "contract_code" ON "contract" USING btree (lower("code"));
--> statement-breakpoint
CREATE UNIQUE INDEX "extra_code" ON "extra" USING btree (lower("code"));
--> statement-breakpoint
CREATE UNIQUE INDEX "price_family_code" ON "price_family" USING btree (lower("code"));
--> statement-breakpoint
CREATE UNIQUE INDEX "region_code" ON "region" USING btree (lower("code"));
