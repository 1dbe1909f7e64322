/**
 * What nearly every place shows. It comes with the first page as one file, so that a place opened at the bench asks for
 * a handful of files instead of forty.
 */
import './area-field';
import './choices';
import './code-field';
import './count-input';
import './figure-input';
import './mark';
import './moment-at';
import './nothing';
import './panel';
import './place-nav';
import './radio-line';
import './record-button';
import './select';
import './spoken-list';
import './text-field';
import './tick';
import './time-ago';
import './typed-before';
import './waiting';
import './when-line';
import './whose-measure';
