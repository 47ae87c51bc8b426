"""From a plan to colours: fields, contribution of a coat, words for a colour."""
