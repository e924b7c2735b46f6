<template>
  <el-dialog v-model="open" title="Keys" width="640px" append-to-body>
    <dl>
      <div v-for="[key, what] in KEYS" :key="key">
        <dt>
          <kbd>{{ key }}</kbd>
        </dt>
        <dd>{{ what }}</dd>
      </div>
    </dl>
    <p class="soft">
      Keys work while the reading field is empty. A reading may carry its own unit: <b>.0025"</b>,
      <b>0.06 mm</b>, <b>4 um</b>. <b>1+29</b> is one turn of the hand and 29.
    </p>
  </el-dialog>
</template>

<script setup lang="ts">
const open = defineModel<boolean>({ required: true })
const KEYS: [string, string][] = [
  ['Enter', 'Keep the reading; with nothing typed: the big button'],
  ['← →', 'Another station; type over a reading to correct it'],
  ['Backspace', 'On an empty field: back to the station before'],
  ['X', 'Bad spot here, or good again'],
  ['U', 'Undo the last thing done'],
  ['D', 'Do it another way'],
  ['E', 'One jaw backed off, the other not tightened yet'],
  ['B', 'Gone back instead'],
  ['R', 'Read the pass again without a move'],
  ['F', 'The full pass, instead of a quick look'],
  ['Q', 'A quick look, where the full pass is advised'],
  ['W', 'The needle of this move goes the other way'],
  ['Z', 'Indicator bumped or moved: zero set afresh'],
  ['N', 'Tighten as it is'],
  ['A', 'Accept with a reason'],
  ['Space', 'Take what the live needle shows; a pedal that sends a space does the same'],
  ['V', 'Over a rod or a ball: the highest, the lowest, or what the live needle shows'],
  ['C', 'Turn it slowly, or run it along: all its readings in one go'],
  ['S', 'Live readings are taken by themselves when the needle is still'],
  ['G', 'The live needle as large as the screen'],
  ['Space, 1–9', 'Check off the cautions of a hold point'],
  ['+ −', 'Which way the needle went in the press test'],
  ['L', 'The log, and a note for it'],
  ['K, M', 'A reading that was asked about is right, or what was meant'],
  ['Y', 'Why won’t it come in?'],
  ['=', 'Work it out: any sum, beside the set-up'],
  ['P', 'Number pad on the screen'],
]
</script>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 20px;
  margin: 0 0 16px;
}
dl div {
  display: grid;
  grid-template-columns: 104px 1fr;
  align-items: baseline;
}
dd {
  margin: 0;
}
</style>
