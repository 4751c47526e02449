CREATE TABLE "draft_change_set" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "draft_change_set_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1000000001 CACHE 1),
	"draft" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"author" text NOT NULL,
	"note" text NOT NULL,
	"is_unfinished" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "draft_change" (
	"change_set" integer NOT NULL,
	"position" integer NOT NULL,
	"draft" integer NOT NULL,
	"kind" text NOT NULL,
	"record" text NOT NULL,
	"before" jsonb,
	"after" jsonb,
	"base" jsonb,
	"is_out" boolean NOT NULL,
	CONSTRAINT "draft_change_change_set_position_pk" PRIMARY KEY("change_set","position")
);
--> statement-breakpoint
CREATE TABLE "draft" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "draft_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"code" text NOT NULL,
	"name" text NOT NULL,
	"author" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"state" text DEFAULT 'open' NOT NULL,
	"publish_at" timestamp with time zone,
	"publish_author" text DEFAULT '' NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"failure" text,
	"change_set" integer
);
--> statement-breakpoint
ALTER TABLE "draft_change_set" ADD CONSTRAINT "draft_change_set_draft_draft_id_fk" FOREIGN KEY ("draft") REFERENCES "public"."draft"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft_change" ADD CONSTRAINT "draft_change_change_set_draft_change_set_id_fk" FOREIGN KEY ("change_set") REFERENCES "public"."draft_change_set"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft_change" ADD CONSTRAINT "draft_change_draft_draft_id_fk" FOREIGN KEY ("draft") REFERENCES "public"."draft"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft" ADD CONSTRAINT "draft_change_set_change_set_id_fk" FOREIGN KEY ("change_set") REFERENCES "public"."change_set"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "draft_change_set_draft" ON "draft_change_set" USING btree ("draft");--> statement-breakpoint
CREATE INDEX "draft_change_record" ON "draft_change" USING btree ("draft","kind","record","change_set");--> statement-breakpoint
CREATE UNIQUE INDEX "draft_code" ON "draft" USING btree (lower("code")) WHERE "draft"."state" = 'open';