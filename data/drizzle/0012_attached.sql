ALTER TABLE `products` ADD `fit` text DEFAULT '' NOT NULL;
--> statement-breakpoint
CREATE TRIGGER `pulse_products_gone` AFTER DELETE ON `products` BEGIN
	INSERT INTO `pulses` VALUES (OLD.`title`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
