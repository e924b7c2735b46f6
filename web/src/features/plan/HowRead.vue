<template>
  <div v-if="asks" class="two">
    <el-form-item v-if="asks.surface" label="The indicator is on" :error="fault('part.surface')">
      <el-radio-group v-model="form.surface">
        <el-radio-button value="outside">the outside</el-radio-button>
        <el-radio-button value="inside">a bore</el-radio-button>
      </el-radio-group>
    </el-form-item>
    <el-form-item v-if="asks.place" label="Indicator stands">
      <el-select v-model="form.place" aria-label="Indicator stands">
        <el-option v-for="p in PLACES" :key="p.id" :label="p.word" :value="p.id" />
      </el-select>
    </el-form-item>
    <el-form-item v-if="asks.presets.length" label="Where to read" :error="fault('stations_deg')">
      <el-radio-group v-model="form.stations">
        <el-radio-button v-for="p in asks.presets" :key="p.id" :value="p.id">{{ p.word }}</el-radio-button>
        <el-radio-button value="own">own angles</el-radio-button>
      </el-radio-group>
      <el-input
        v-if="form.stations === 'own'"
        v-model="form.own"
        class="own"
        aria-label="Own angles"
        placeholder="0 60 120 180 240 300"
      />
      <p class="hint">{{ stationHint }}</p>
      <ToldHere :told="told" field="stations_deg" />
    </el-form-item>
    <el-form-item v-if="asks.presets.length" label="The surface is" :error="fault('part.finish')">
      <el-radio-group v-model="form.finish">
        <el-radio-button value="ground">ground</el-radio-button>
        <el-radio-button value="turned">turned</el-radio-button>
        <el-radio-button value="rough">rough</el-radio-button>
      </el-radio-group>
      <p class="hint">How true it can be expected to be by itself, until the readings tell.</p>
    </el-form-item>
    <el-form-item v-if="asks.schools.length" label="Way of working">
      <el-radio-group v-model="form.school">
        <el-radio-button value="high_spot">both pairs at once</el-radio-button>
        <el-radio-button value="pairs">pair by pair</el-radio-button>
      </el-radio-group>
      <p class="hint">{{ SCHOOL_HINT[form.school] }}</p>
    </el-form-item>
    <el-form-item v-if="lever" label="Stylus to the surface, degrees" :error="fault('stylus_deg')">
      <el-input v-model="form.stylus" aria-label="Stylus to the surface, degrees" placeholder="12 or less" />
      <p class="hint">Steeper than 12° the dial reads too much; typed here, that is taken out.</p>
      <ToldHere :told="told" field="stylus_deg" />
    </el-form-item>
    <el-form-item label="You read the dial to">
      <el-radio-group v-model="prefs.readTo" aria-label="You read the dial to">
        <el-radio-button value="fifth">a fifth</el-radio-button>
        <el-radio-button value="half">half</el-radio-button>
        <el-radio-button value="whole">whole</el-radio-button>
      </el-radio-group>
      <p class="hint">Of a graduation. It is kept with your name, and is in every ±.</p>
    </el-form-item>
    <el-form-item v-if="asks.view" label="Picture seen">
      <el-radio-group v-model="form.view">
        <el-radio-button value="tailstock">from the tailstock</el-radio-button>
        <el-radio-button value="operator">me at the bottom</el-radio-button>
      </el-radio-group>
    </el-form-item>
  </div>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import ToldHere from './ToldHere.vue'
import { usePrefs } from '../../shared/prefs'
import { PLACES, SCHOOL_HINT, type Form } from './form'

interface Props {
  /** Which of these questions the procedure puts. */
  asks: Schemas['Asks'] | undefined
  /** Does a lever read it? */
  lever: boolean
  /** What is to be told at the start. */
  told: Schemas['Caveat'][]
  /** What is wrong at a field, or nothing. */
  fault: (field: string) => string
}
const props = defineProps<Props>()
const prefs = usePrefs()
/** The page as it is filled in. */
const form = defineModel<Form>('form', { required: true })

const stationHint = computed(
  () =>
    props.asks?.presets.find((p) => p.id === form.value.stations)?.hint ??
    `Degrees from ${props.asks?.angles ?? ''}, with spaces between.`,
)
</script>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 20px;
}
.own {
  margin-top: 8px;
}
</style>
