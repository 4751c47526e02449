CREATE TABLE "finding_mute" (
	"key" text PRIMARY KEY NOT NULL,
	"author" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"until" timestamp with time zone,
	"reason" text NOT NULL
);
