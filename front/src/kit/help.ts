/** What each desk is for, its keys and its words, as the help page says it. */
import { t } from "../language/t";

export interface Help {
  title: string;
  for: string;
  keys: [string, string][];
  words: [string, string][];
}

const EVERYWHERE: [string, string][] = [
  ["/", t("help.go_to_a_battery_type_its_tag_or_scan_it")],
  ["C", t("screens.counter_2")],
  ["=", t("help.the_charge_rack")],
  ["+", t("screens.goods_2")],
  ["R", t("screens.records_2")],
  ["B", t("help.the_check_of_the_battery_in_hand")],
  ["M", t("help.what_replaces_it_once_more_or_with_none_in")],
  ["W", t("help.its_warranty")],
  ["I", t("help.its_life")],
  ["?", t("help.this_page")],
];

const HELP: Record<string, Help> = {
  counter: {
    title: t("screens.counter"),
    for: t("help.a_battery_is_taken_in_here_rated_figure"),
    keys: [
      ["↵", t("help.take_it_in")],
      [t("screens.tab"), t("help.on_to_the_next")],
    ],
    words: [
      [t("help.rated_figure"), t("help.the_amps_printed_on_the_label_its_scale_is")],
      [t("help.copper_words"), t("help.what_is_usually_right_touch_one_to_change")],
    ],
  },
  check: {
    title: t("help.check"),
    for: t("help.one_battery_is_read_and_judged_here_the"),
    keys: [
      ["L E V G", t("help.look_leakage_volts_cells")],
      ["T P F K", t("help.tester_pull_fixed_load_crank")],
      ["H D A ⇧D", t("help.charge_stand_the_car_reserve")],
      ["↵", t("help.keep_what_is_typed")],
      ["Z", t("help.undo_the_last_entry")],
      ["N", t("help.the_next_step")],
      ["S U", t("help.slip_put_it_somewhere")],
      ["O Q X Y J ⇧", t("help.a_word_of_the_open_rung_by_the_letter_it")],
    ],
    words: [
      [t("help.feather"), t("help.one_reading_its_length_is_its_weight_it")],
      [t("help.wedge"), t("help.how_sure_narrow_when_the_evidence_agrees")],
      [t("screens.does_not_count"), t("help.a_reading_that_does_not_count_with_the")],
      [t("help.sound_after"), t("help.healthy_once_the_jobs_below_it_are_done")],
      [t("help.and_more"), t("help.words_that_are_rarely_asked_for_folded")],
    ],
  },
  rack: {
    title: t("help.charge_rack"),
    for: t("help.every_battery_stands_where_it_is_due_what"),
    keys: [
      ["N", t("help.the_next_thing_to_do")],
      ["↑ ↓", t("help.the_battery_in_focus_onto_the_board_above")],
      ["↵", t("help.its_settings_its_promise_where_else_it_may")],
    ],
    words: [
      [t("help.wedge"), t("help.the_charge_that_is_still_missing")],
      [t("help.dashed"), t("help.planned_a_solid_case_hangs_there")],
      [t("help.flag"), t("help.a_promise_plum_where_the_battery_is_behind")],
      [t("help.copper_dot"), t("help.set_there_by_hand_the_plan_leaves_it")],
      [t("help.off_early"), t("help.taken_off_before_it_was_full_it_says_what")],
    ],
  },
  equipment: {
    title: t("screens.book_of_equipment"),
    for: t("help.what_the_shop_charges_measures_and_pulls"),
    keys: [["↵", t("help.write_it")]],
    words: [
      [t("screens.due"), t("help.its_check_what_is_read_with_it_says_so")],
      [t("screens.somebody_by_it"), t("help.the_charger_does_not_limit_itself_it_does")],
    ],
  },
  match: {
    title: t("screens.match"),
    for: t("help.say_what_is_known_a_car_a_size_a_code_the"),
    keys: [["M", t("help.with_no_battery_type_a_car")]],
    words: [
      [t("help.near"), t("help.it_fits_but_something_must_change_the_list")],
      [t("help.stricter"), t("help.asks_for_more_than_what_wins")],
    ],
  },
  goods: {
    title: t("screens.goods"),
    for: t("help.what_stands_on_the_shelf_and_what_wants_a"),
    keys: [],
    words: [
      [t("help.priced_down"), t("help.it_stood_long_without_a_charge_and_costs")],
      [t("help.set_aside"), t("help.not_sold_any_more")],
    ],
  },
  house: {
    title: t("screens.the_house"),
    for: t("help.the_shop_itself_its_name_money_and_units"),
    keys: [],
    words: [
      [t("help.edition"), t("help.terms_from_a_day_on_what_was_sold_before")],
      [t("screens.lead"), t("help.changes_rules_prices_and_counter_hands_and")],
      [t("screens.owner"), t("help.also_says_who_leads_and_opens_other_stores")],
    ],
  },
  fitting: {
    title: t("help.fitting"),
    for: t("help.what_is_done_to_fit_this_battery_into_this"),
    keys: [],
    words: [[t("screens.deposit"), t("help.goes_back_when_the_old_one_is_booked_in")]],
  },
  warranty: {
    title: t("screens.warranty"),
    for: t("help.what_our_terms_give_for_this_battery_step"),
    keys: [["↵", t("help.write_the_claim")]],
    words: [[t("help.pro_rata"), t("help.a_credit_for_the_months_that_are_left")]],
  },
  life: {
    title: t("screens.life"),
    for: t("help.everything_kept_of_one_battery_corrections"),
    keys: [],
    words: [[t("help.struck_through"), t("help.corrected_later_or_taken_back")]],
  },
  records: {
    title: t("screens.records"),
    for: t("help.past_checks_found_by_tag_line_serial_name"),
    keys: [],
    words: [[t("help.visit"), t("help.a_battery_from_take_in_until_it_leaves_the")]],
  },
  customers: {
    title: t("screens.customers"),
    for: t("help.one_person_however_often_they_were_written"),
    keys: [],
    words: [
      [t("screens.the_same"), t("help.two_entries_become_one_person_they_can_be")],
      [t("help.forgotten"), t("help.name_phone_and_plate_are_gone_everywhere")],
    ],
  },
  rules: {
    title: t("screens.house_rules_2"),
    for: t("help.every_figure_the_judgement_rests_on_with"),
    keys: [],
    words: [[t("screens.standing"), t("help.published_common_practice_or_from_memory")]],
  },
};

/** The help of a desk, with the keys that work everywhere. */
export function helpOf(desk: string): Help {
  const page = HELP[desk === "take-in" ? "counter" : desk] ?? HELP["counter"];
  if (!page) throw new Error("no help");
  return { ...page, keys: [...page.keys, ...EVERYWHERE] };
}
