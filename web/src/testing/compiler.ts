// Libraries of Angular come half compiled; outside its own build the compiler finishes them.
import '@angular/compiler';
