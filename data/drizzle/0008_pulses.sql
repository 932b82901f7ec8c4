CREATE TABLE `pulses` (
	`title` text PRIMARY KEY NOT NULL,
	`at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `pulses_at` ON `pulses` (`at`);--> statement-breakpoint
ALTER TABLE `changes` ADD `actor` text DEFAULT 'author' NOT NULL;--> statement-breakpoint
ALTER TABLE `changes` ADD `redoes` integer;--> statement-breakpoint
ALTER TABLE `jobs` ADD `actor` text DEFAULT 'author' NOT NULL;--> statement-breakpoint
UPDATE `changes` SET `redoes` = 0 WHERE `client` = 'redo';
--> statement-breakpoint
CREATE TRIGGER `pulse_titles_new` AFTER INSERT ON `titles` BEGIN
	INSERT INTO `pulses` VALUES (NEW.`id`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_titles` AFTER UPDATE ON `titles` BEGIN
	INSERT INTO `pulses` VALUES (NEW.`id`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_jobs_new` AFTER INSERT ON `jobs` BEGIN
	INSERT INTO `pulses` VALUES (coalesce(NEW.`title`, ''), (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_jobs` AFTER UPDATE ON `jobs` BEGIN
	INSERT INTO `pulses` VALUES (coalesce(NEW.`title`, ''), (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_products_new` AFTER INSERT ON `products` BEGIN
	INSERT INTO `pulses` VALUES (NEW.`title`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_listings_new` AFTER INSERT ON `listings` BEGIN
	INSERT INTO `pulses` VALUES (NEW.`title`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_listings` AFTER UPDATE ON `listings` BEGIN
	INSERT INTO `pulses` VALUES (NEW.`title`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
