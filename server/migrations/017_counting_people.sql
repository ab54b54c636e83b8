-- How many have a cart or an order is counted without reading what they did.
CREATE INDEX shoppers_with_cart ON shoppers (person) WHERE lines > 0;
CREATE INDEX shoppers_with_order ON shoppers (person) WHERE orders > 0;
