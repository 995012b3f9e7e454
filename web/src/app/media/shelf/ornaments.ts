import leaf from '@mdi/svg/svg/leaf.svg';
import maple from '@mdi/svg/svg/leaf-maple.svg';
import sprout from '@mdi/svg/svg/sprout.svg';
import flower from '@mdi/svg/svg/flower.svg';
import tulip from '@mdi/svg/svg/flower-tulip.svg';
import poppy from '@mdi/svg/svg/flower-poppy.svg';
import clover from '@mdi/svg/svg/clover.svg';
import barley from '@mdi/svg/svg/barley.svg';
import feather from '@mdi/svg/svg/feather.svg';
import butterfly from '@mdi/svg/svg/butterfly.svg';
import bird from '@mdi/svg/svg/bird.svg';
import pine from '@mdi/svg/svg/pine-tree.svg';
import snowflake from '@mdi/svg/svg/snowflake.svg';
import sun from '@mdi/svg/svg/white-balance-sunny.svg';
import moon from '@mdi/svg/svg/moon-waning-crescent.svg';
import waves from '@mdi/svg/svg/waves.svg';
import fire from '@mdi/svg/svg/fire.svg';
import heart from '@mdi/svg/svg/heart.svg';
import star from '@mdi/svg/svg/star.svg';
import sparkle from '@mdi/svg/svg/star-four-points.svg';
import decagram from '@mdi/svg/svg/decagram.svg';
import ribbon from '@mdi/svg/svg/ribbon.svg';
import brush from '@mdi/svg/svg/brush.svg';
import bowl from '@mdi/svg/svg/bowl.svg';
import cup from '@mdi/svg/svg/tea.svg';
import pot from '@mdi/svg/svg/pot.svg';
import arrow from '@mdi/svg/svg/arrow-right-thin.svg';
import openQuote from '@mdi/svg/svg/format-quote-open.svg';
import closeQuote from '@mdi/svg/svg/format-quote-close.svg';
import asterisk from '@mdi/svg/svg/asterisk.svg';

/** Ornaments as drawings in one colour, from the icon package. */
export const ornaments: readonly { readonly name: string; readonly svg: string }[] = [
  { name: 'Leaf', svg: leaf },
  { name: 'Maple leaf', svg: maple },
  { name: 'Sprout', svg: sprout },
  { name: 'Flower', svg: flower },
  { name: 'Tulip', svg: tulip },
  { name: 'Poppy', svg: poppy },
  { name: 'Clover', svg: clover },
  { name: 'Barley', svg: barley },
  { name: 'Feather', svg: feather },
  { name: 'Butterfly', svg: butterfly },
  { name: 'Bird', svg: bird },
  { name: 'Pine', svg: pine },
  { name: 'Snowflake', svg: snowflake },
  { name: 'Sun', svg: sun },
  { name: 'Moon', svg: moon },
  { name: 'Waves', svg: waves },
  { name: 'Fire', svg: fire },
  { name: 'Heart', svg: heart },
  { name: 'Star', svg: star },
  { name: 'Sparkle', svg: sparkle },
  { name: 'Seal', svg: decagram },
  { name: 'Ribbon', svg: ribbon },
  { name: 'Brush', svg: brush },
  { name: 'Bowl', svg: bowl },
  { name: 'Cup', svg: cup },
  { name: 'Pot', svg: pot },
  { name: 'Arrow', svg: arrow },
  { name: 'Opening quote', svg: openQuote },
  { name: 'Closing quote', svg: closeQuote },
  { name: 'Asterisk', svg: asterisk },
];

export const ornamentLicence = 'Apache License 2.0, from the icon package that ships with Bright Slot';
