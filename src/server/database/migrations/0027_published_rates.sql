CREATE TABLE "rate_publication" (
	"day" text PRIMARY KEY NOT NULL,
	"per" text NOT NULL,
	"rates" jsonb NOT NULL,
	"declined" jsonb NOT NULL,
	"read_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "rate_service" (
	"id" integer PRIMARY KEY NOT NULL,
	"tried_at" timestamp with time zone NOT NULL,
	"problem" text NOT NULL
);
