ALTER TABLE `listings` ADD `delivered` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `listings` ADD `deliveries` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `listings` ADD `listed` text DEFAULT '' NOT NULL;--> statement-breakpoint
UPDATE `listings` SET `deliveries` = 1, `delivered` = coalesce((SELECT `sha256` FROM `products` WHERE `products`.`id` = `listings`.`product`), '') WHERE `reference` <> '';
