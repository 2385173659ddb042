-- Where the headings stand is found in each file anew.
UPDATE layouts SET choices = choices - 'headerRow';
