ALTER TABLE "price_list" ALTER COLUMN "tax_basis" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "product" ADD COLUMN "content" text;--> statement-breakpoint
ALTER TABLE "variant" ADD COLUMN "content" text;--> statement-breakpoint
UPDATE "change" SET "before" = '{"content":null}'::jsonb || "before" WHERE "kind" IN ('product', 'variant') AND jsonb_typeof("before") = 'object';
--> statement-breakpoint
UPDATE "change" SET "after" = '{"content":null}'::jsonb || "after" WHERE "kind" IN ('product', 'variant') AND jsonb_typeof("after") = 'object';
