// Angular's packages are compiled as they are imported, outside of a build: the compiler comes before all of them.
import '@angular/compiler';
