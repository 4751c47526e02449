CREATE TABLE "account_group" (
	"account" text NOT NULL,
	"customer_group" text NOT NULL,
	"position" integer NOT NULL,
	CONSTRAINT "account_group_account_customer_group_pk" PRIMARY KEY("account","customer_group")
);
--> statement-breakpoint
CREATE TABLE "account" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"country" text NOT NULL,
	"city" text NOT NULL,
	"tags" jsonb NOT NULL,
	"emails" jsonb NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "category" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"parent" text,
	"position" integer NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "change_set" (
	"id" integer PRIMARY KEY NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"author" text NOT NULL,
	"note" text NOT NULL,
	"undoes" integer
);
--> statement-breakpoint
CREATE TABLE "change" (
	"change_set" integer NOT NULL,
	"position" integer NOT NULL,
	"kind" text NOT NULL,
	"record" text NOT NULL,
	"before" jsonb,
	"after" jsonb,
	CONSTRAINT "change_change_set_position_pk" PRIMARY KEY("change_set","position")
);
--> statement-breakpoint
CREATE TABLE "customer_group" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"trade" boolean NOT NULL,
	"position" integer NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "price_line" (
	"id" text PRIMARY KEY NOT NULL,
	"list" text NOT NULL,
	"position" integer NOT NULL,
	"scope" jsonb NOT NULL,
	"method" jsonb NOT NULL,
	"rounding" jsonb,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "price_list" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"purpose" text NOT NULL,
	"state" text NOT NULL,
	"audience" jsonb NOT NULL,
	"rank" integer NOT NULL,
	"default_line" jsonb,
	"rounding" jsonb,
	"revision" integer NOT NULL,
	CONSTRAINT "price_list_rank" CHECK ("price_list"."rank" >= 1),
	CONSTRAINT "price_list_audience" CHECK (jsonb_array_length("price_list"."audience" -> 'include') > 0)
);
--> statement-breakpoint
CREATE TABLE "product_category" (
	"product" text NOT NULL,
	"category" text NOT NULL,
	"position" integer NOT NULL,
	CONSTRAINT "product_category_product_category_pk" PRIMARY KEY("product","category")
);
--> statement-breakpoint
CREATE TABLE "product" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"description" text NOT NULL,
	"picture" text NOT NULL,
	"unit" text NOT NULL,
	"status" text NOT NULL,
	"attributes" jsonb NOT NULL,
	"axes" jsonb NOT NULL,
	"base_price" numeric,
	"cost" numeric,
	"recommended_price" numeric,
	"weight" numeric,
	"revision" integer NOT NULL,
	CONSTRAINT "product_base_price" CHECK ("product"."base_price" > 0),
	CONSTRAINT "product_cost" CHECK ("product"."cost" >= 0)
);
--> statement-breakpoint
CREATE TABLE "settings" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"currency" text NOT NULL,
	"price_digits" integer NOT NULL,
	"time_zone" text NOT NULL,
	"country" text NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "variant" (
	"id" text PRIMARY KEY NOT NULL,
	"sku" text NOT NULL,
	"product" text NOT NULL,
	"options" jsonb NOT NULL,
	"position" integer NOT NULL,
	"base_price" numeric,
	"cost" numeric,
	"recommended_price" numeric,
	"weight" numeric,
	"revision" integer NOT NULL,
	CONSTRAINT "variant_base_price" CHECK ("variant"."base_price" > 0),
	CONSTRAINT "variant_cost" CHECK ("variant"."cost" >= 0)
);
--> statement-breakpoint
ALTER TABLE "account_group" ADD CONSTRAINT "account_group_account_account_id_fk" FOREIGN KEY ("account") REFERENCES "public"."account"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "account_group" ADD CONSTRAINT "account_group_customer_group_customer_group_id_fk" FOREIGN KEY ("customer_group") REFERENCES "public"."customer_group"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "category" ADD CONSTRAINT "category_parent_category_id_fk" FOREIGN KEY ("parent") REFERENCES "public"."category"("id") ON DELETE no action ON UPDATE no action DEFERRABLE INITIALLY DEFERRED;--> statement-breakpoint
ALTER TABLE "change_set" ADD CONSTRAINT "change_set_undoes_change_set_id_fk" FOREIGN KEY ("undoes") REFERENCES "public"."change_set"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "change" ADD CONSTRAINT "change_change_set_change_set_id_fk" FOREIGN KEY ("change_set") REFERENCES "public"."change_set"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "price_line" ADD CONSTRAINT "price_line_list_price_list_id_fk" FOREIGN KEY ("list") REFERENCES "public"."price_list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "product_category" ADD CONSTRAINT "product_category_product_product_id_fk" FOREIGN KEY ("product") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "product_category" ADD CONSTRAINT "product_category_category_category_id_fk" FOREIGN KEY ("category") REFERENCES "public"."category"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "variant" ADD CONSTRAINT "variant_product_product_id_fk" FOREIGN KEY ("product") REFERENCES "public"."product"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "account_code" ON "account" USING btree (lower("code"));--> statement-breakpoint
CREATE UNIQUE INDEX "category_code" ON "category" USING btree (lower("code"));--> statement-breakpoint
CREATE INDEX "change_record" ON "change" USING btree ("kind","record");--> statement-breakpoint
CREATE UNIQUE INDEX "customer_group_code" ON "customer_group" USING btree (lower("code"));--> statement-breakpoint
CREATE INDEX "price_line_list" ON "price_line" USING btree ("list");--> statement-breakpoint
CREATE UNIQUE INDEX "price_list_code" ON "price_list" USING btree (lower("code"));--> statement-breakpoint
CREATE UNIQUE INDEX "product_code" ON "product" USING btree (lower("code"));--> statement-breakpoint
CREATE UNIQUE INDEX "variant_sku" ON "variant" USING btree (lower("sku"));