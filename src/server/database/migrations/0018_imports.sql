CREATE TABLE "import" (
	"id" text PRIMARY KEY NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"file_name" text NOT NULL,
	"content" "bytea" NOT NULL,
	"target" jsonb NOT NULL,
	"matching" jsonb NOT NULL,
	"mark" text NOT NULL,
	"left_out" jsonb NOT NULL,
	"step" text NOT NULL,
	"author" text,
	"change_set" integer,
	"rows" integer
);
--> statement-breakpoint
ALTER TABLE "import" ADD CONSTRAINT "import_change_set_change_set_id_fk" FOREIGN KEY ("change_set") REFERENCES "public"."change_set"("id") ON DELETE no action ON UPDATE no action;