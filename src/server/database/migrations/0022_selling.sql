CREATE TABLE "desk_order" (
	"number" integer PRIMARY KEY NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"author" text NOT NULL,
	"state" text NOT NULL,
	"content" jsonb NOT NULL,
	"version" integer NOT NULL,
	"became" integer
);
--> statement-breakpoint
CREATE TABLE "mail" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"to_address" text NOT NULL,
	"account" text,
	"about" text NOT NULL,
	"letter" jsonb NOT NULL,
	"subject" text DEFAULT '' NOT NULL,
	"html" text,
	"plain" text,
	"sent" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "order_request" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"account" text NOT NULL,
	"person" text NOT NULL,
	"name" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"wanted" jsonb NOT NULL,
	"state" text NOT NULL,
	"decided_by" text,
	"decided_at" timestamp with time zone,
	"reason" text DEFAULT '' NOT NULL,
	"order_number" integer
);
--> statement-breakpoint
CREATE TABLE "quote_event" (
	"quote_number" integer NOT NULL,
	"version" integer NOT NULL,
	"event" jsonb NOT NULL,
	CONSTRAINT "quote_event_quote_number_version_pk" PRIMARY KEY("quote_number","version")
);
--> statement-breakpoint
CREATE TABLE "quote" (
	"number" integer PRIMARY KEY NOT NULL,
	"account" text,
	"visitor" text,
	"at" timestamp with time zone NOT NULL,
	"request" jsonb NOT NULL,
	"state" text NOT NULL,
	"version" integer NOT NULL,
	"buyer" text NOT NULL,
	"currency" text NOT NULL,
	"total" numeric,
	"until" text,
	"working" jsonb,
	"working_version" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "reorder_list" (
	"id" text PRIMARY KEY NOT NULL,
	"account" text NOT NULL,
	"name" text NOT NULL,
	"person" text,
	"lines" jsonb NOT NULL,
	"author" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"version" integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "people" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "quote_margin" numeric;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "quote_days" integer DEFAULT 14 NOT NULL;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "shop_email" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "shop_session" ADD COLUMN "person" text;--> statement-breakpoint
ALTER TABLE "quote_event" ADD CONSTRAINT "quote_event_quote_number_quote_number_fk" FOREIGN KEY ("quote_number") REFERENCES "public"."quote"("number") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "desk_order_state" ON "desk_order" USING btree ("state","number");--> statement-breakpoint
CREATE INDEX "mail_about" ON "mail" USING btree ("about");--> statement-breakpoint
CREATE INDEX "mail_sent" ON "mail" USING btree ("sent");--> statement-breakpoint
CREATE INDEX "order_request_account" ON "order_request" USING btree ("account","id");--> statement-breakpoint
CREATE INDEX "quote_account" ON "quote" USING btree ("account","number");--> statement-breakpoint
CREATE INDEX "quote_state" ON "quote" USING btree ("state","number");--> statement-breakpoint
CREATE INDEX "reorder_list_account" ON "reorder_list" USING btree ("account");--> statement-breakpoint
INSERT INTO "number_series" VALUES ('quote', 1001), ('desk', 2001);--> statement-breakpoint
UPDATE "change" SET "before" = "before" || '{"people": []}', "after" = "after" || '{"people": []}' WHERE "kind" = 'account';--> statement-breakpoint
UPDATE "draft_change" SET "before" = "before" || '{"people": []}', "after" = "after" || '{"people": []}', "base" = "base" || '{"people": []}' WHERE "kind" = 'account';--> statement-breakpoint
UPDATE "change" SET "before" = "before" || '{"quoteMargin": null, "quoteDays": 14, "shopEmail": ""}', "after" = "after" || '{"quoteMargin": null, "quoteDays": 14, "shopEmail": ""}' WHERE "kind" = 'settings';--> statement-breakpoint
UPDATE "draft_change" SET "before" = "before" || '{"quoteMargin": null, "quoteDays": 14, "shopEmail": ""}', "after" = "after" || '{"quoteMargin": null, "quoteDays": 14, "shopEmail": ""}', "base" = "base" || '{"quoteMargin": null, "quoteDays": 14, "shopEmail": ""}' WHERE "kind" = 'settings';
