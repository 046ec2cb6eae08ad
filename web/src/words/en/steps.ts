/** Words that lead through the first batch. */
export const steps = {
  steps: 'Your first batch',
  'steps.done': '{n} of {of} done',
  'steps.all':
    'From bean to bar: all {of} steps are done. Finish the batch on its ticket once nothing more is to come.',
  'steps.away': 'Put this away',
  'steps.is-done': 'done',
  'steps.practise': 'Practise a roast or a bowl',
  'steps.practise.text':
    'Nobody’s beans are lost by it: the stations’ own screens over a simulated oven, on a fast clock.',
  'steps.class': 'Plan a class',
  'steps.class.text':
    'A day, places, a price. The run sheet says what must be roasted, ground and tempered before the guests come.',
  'steps.harvest': 'Note the first picking',
  'steps.harvest.text':
    'How many pods, from which plot or tree, what was paid. Each plot’s year grows from these. Where pods or beans are bought without it, weigh them in instead.',
  'steps.crop': 'Take it in as a lot',
  'steps.crop.text':
    'Choose the pickings that go into one box, and weigh them: pods or wet beans become a lot, and what was paid goes along.',
  'steps.receive': 'Weigh the first lot in',
  'steps.receive.text':
    'Put the sack on the scale and say where it comes from. A short code is enough to begin with; from now on every gram has a place.',
  'steps.ferment': 'Ferment and dry the wet beans',
  'steps.ferment.text':
    'Follow the box or heap by temperature and turns, then the drying by weight. When they are dry, take them in as a lot of dry beans.',
  'steps.start': 'Start a batch',
  'steps.start.text':
    'Open the lot and start a batch from it. It gets a code that goes with it to the label on the bar.',
  'steps.sort': 'Sort the beans',
  'steps.sort.text':
    'Pick out flat, mouldy and broken ones and stones. Weigh what you pick: the share tells about the lot.',
  'steps.roast': 'Roast',
  'steps.roast.text':
    'Choose a plan and weigh a load in. With a probe the curve draws itself; without one, type a temperature every few minutes. The forecast says when to take them out.',
  'steps.winnow': 'Crack and winnow',
  'steps.winnow.text':
    'Weigh the nibs and the husk. The picture shows what a stronger or weaker wind would have kept.',
  'steps.recipe': 'Write a recipe',
  'steps.recipe.text':
    'Nibs, sugar, perhaps butter: cacao share, fat, flow and price are worked out while you type, for the nibs you really have.',
  'steps.grind': 'Grind and conche',
  'steps.grind.text':
    'Feed the machine as the screen says and measure the grit now and then. It learns your machine and says when it will be done.',
  'steps.temper': 'Temper',
  'steps.temper.text':
    'Choose a way. One line says what to do now; under the curve stand the crystals, as an estimate.',
  'steps.mould': 'Mould, count and label',
  'steps.mould.text':
    'Pour, let it set, count the bars. The label has ingredients, allergens, net weight and a code that leads back to the sack.',
  'steps.taste': 'Taste the first bar',
  'steps.taste.text':
    'Sour, grit, liking: three taps. What you taste now is what the next batch learns from.',
  'steps.rest': 'Let it rest',
  'steps.rest.text': 'Blocks that rest some weeks become rounder. The shelf says when.',
  'photo.take': 'Photograph it',
} as const;
