CREATE TABLE "shop_session" (
	"id" text PRIMARY KEY NOT NULL,
	"buyer" text NOT NULL,
	"deliver_to" text,
	"currency" text,
	"passcode" text,
	"cart" text,
	"at" timestamp with time zone NOT NULL
);
