CREATE TABLE `deliveries` (
	`listing` text NOT NULL,
	`number` integer NOT NULL,
	`product` text NOT NULL,
	`sha256` text NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`listing`, `number`)
);
--> statement-breakpoint
INSERT INTO `deliveries` SELECT `l`.`id`, `l`.`deliveries` - 1, coalesce((SELECT `id` FROM `products` WHERE `id` = `l`.`product` AND `sha256` = `l`.`delivered`), (SELECT min(`id`) FROM `products` WHERE `sha256` = `l`.`delivered` AND `title` = `l`.`title`), `l`.`product`), `l`.`delivered`, `l`.`changed_at` FROM `listings` `l` WHERE `l`.`deliveries` > 0;--> statement-breakpoint
ALTER TABLE `listings` DROP COLUMN `delivered`;--> statement-breakpoint
ALTER TABLE `listings` DROP COLUMN `deliveries`;
