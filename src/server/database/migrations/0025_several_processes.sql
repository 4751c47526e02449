ALTER TABLE "import" ADD COLUMN "state" jsonb;--> statement-breakpoint
ALTER TABLE "import" ADD COLUMN "version" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "import" ADD COLUMN "is_cancelled" boolean DEFAULT false NOT NULL;--> statement-breakpoint
CREATE INDEX "stock_level_out" ON "stock_level" USING btree ("variant") WHERE "stock_level"."on_hand" <= "stock_level"."reserved";--> statement-breakpoint
INSERT INTO "number_series" VALUES ('stock', 1);--> statement-breakpoint
CREATE FUNCTION "steppe_tell_others"() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN PERFORM pg_notify('steppe', ''); RETURN NULL; END $$;--> statement-breakpoint
CREATE TRIGGER "change_set_told" AFTER INSERT OR UPDATE ON "change_set" FOR EACH STATEMENT EXECUTE FUNCTION "steppe_tell_others"();--> statement-breakpoint
CREATE TRIGGER "stock_told" AFTER UPDATE ON "number_series" FOR EACH ROW WHEN (NEW."name" = 'stock') EXECUTE FUNCTION "steppe_tell_others"();
