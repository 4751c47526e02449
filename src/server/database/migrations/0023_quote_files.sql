CREATE TABLE "quote_file" (
	"id" text PRIMARY KEY NOT NULL,
	"quote_number" integer,
	"owner" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"name" text NOT NULL,
	"type" text NOT NULL,
	"size" integer NOT NULL,
	"content" "bytea" NOT NULL
);
--> statement-breakpoint
ALTER TABLE "quote_file" ADD CONSTRAINT "quote_file_quote_number_quote_number_fk" FOREIGN KEY ("quote_number") REFERENCES "public"."quote"("number") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "quote_file_quote" ON "quote_file" USING btree ("quote_number");--> statement-breakpoint
CREATE INDEX "quote_file_owner" ON "quote_file" USING btree ("owner","at");