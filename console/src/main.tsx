document.title = 'Nachlauf';
