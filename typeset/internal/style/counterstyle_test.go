package style

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"oliveledger/typeset/internal/css"
)

// The predefined styles (Counter Styles 3, §6 and §7), for -12, 0, 1, 4, 10, 11, 27, 100, 399,
// 2026, 10000 and 123456. What a style has no signs for is written in its fallback.
func TestPredefinedCounterStyles(t *testing.T) {
	for _, c := range [][2]string{
		{"decimal", "-12 0 1 4 10 11 27 100 399 2026 10000 123456"},
		{"decimal-leading-zero", "-12 00 01 04 10 11 27 100 399 2026 10000 123456"},
		{"lower-roman", "-12 0 i iv x xi xxvii c cccxcix mmxxvi 10000 123456"},
		{"upper-roman", "-12 0 I IV X XI XXVII C CCCXCIX MMXXVI 10000 123456"},
		{"lower-alpha", "-12 0 a d j k aa cv oi byx ntp fzph"},
		{"upper-latin", "-12 0 A D J K AA CV OI BYX NTP FZPH"},
		{"lower-greek", "-12 0 α δ κ λ αγ δδ πο γμκ ρθπ θχηω"},
		{"arabic-indic", "-١٢ ٠ ١ ٤ ١٠ ١١ ٢٧ ١٠٠ ٣٩٩ ٢٠٢٦ ١٠٠٠٠ ١٢٣٤٥٦"},
		{"persian", "-۱۲ ۰ ۱ ۴ ۱۰ ۱۱ ۲۷ ۱۰۰ ۳۹۹ ۲۰۲۶ ۱۰۰۰۰ ۱۲۳۴۵۶"},
		{"bengali", "-১২ ০ ১ ৪ ১০ ১১ ২৭ ১০০ ৩৯৯ ২০২৬ ১০০০০ ১২৩৪৫৬"},
		{"devanagari", "-१२ ० १ ४ १० ११ २७ १०० ३९९ २०२६ १०००० १२३४५६"},
		{"gujarati", "-૧૨ ૦ ૧ ૪ ૧૦ ૧૧ ૨૭ ૧૦૦ ૩૯૯ ૨૦૨૬ ૧૦૦૦૦ ૧૨૩૪૫૬"},
		{"gurmukhi", "-੧੨ ੦ ੧ ੪ ੧੦ ੧੧ ੨੭ ੧੦੦ ੩੯੯ ੨੦੨੬ ੧੦੦੦੦ ੧੨੩੪੫੬"},
		{"kannada", "-೧೨ ೦ ೧ ೪ ೧೦ ೧೧ ೨೭ ೧೦೦ ೩೯೯ ೨೦೨೬ ೧೦೦೦೦ ೧೨೩೪೫೬"},
		{"khmer", "-១២ ០ ១ ៤ ១០ ១១ ២៧ ១០០ ៣៩៩ ២០២៦ ១០០០០ ១២៣៤៥៦"},
		{"lao", "-໑໒ ໐ ໑ ໔ ໑໐ ໑໑ ໒໗ ໑໐໐ ໓໙໙ ໒໐໒໖ ໑໐໐໐໐ ໑໒໓໔໕໖"},
		{"malayalam", "-൧൨ ൦ ൧ ൪ ൧൦ ൧൧ ൨൭ ൧൦൦ ൩൯൯ ൨൦൨൬ ൧൦൦൦൦ ൧൨൩൪൫൬"},
		{"mongolian", "-᠑᠒ ᠐ ᠑ ᠔ ᠑᠐ ᠑᠑ ᠒᠗ ᠑᠐᠐ ᠓᠙᠙ ᠒᠐᠒᠖ ᠑᠐᠐᠐᠐ ᠑᠒᠓᠔᠕᠖"},
		{"myanmar", "-၁၂ ၀ ၁ ၄ ၁၀ ၁၁ ၂၇ ၁၀၀ ၃၉၉ ၂၀၂၆ ၁၀၀၀၀ ၁၂၃၄၅၆"},
		{"oriya", "-୧୨ ୦ ୧ ୪ ୧୦ ୧୧ ୨୭ ୧୦୦ ୩୯୯ ୨୦୨୬ ୧୦୦୦୦ ୧୨୩୪୫୬"},
		{"tamil", "-௧௨ ௦ ௧ ௪ ௧௦ ௧௧ ௨௭ ௧௦௦ ௩௯௯ ௨௦௨௬ ௧௦௦௦௦ ௧௨௩௪௫௬"},
		{"telugu", "-౧౨ ౦ ౧ ౪ ౧౦ ౧౧ ౨౭ ౧౦౦ ౩౯౯ ౨౦౨౬ ౧౦౦౦౦ ౧౨౩౪౫౬"},
		{"thai", "-๑๒ ๐ ๑ ๔ ๑๐ ๑๑ ๒๗ ๑๐๐ ๓๙๙ ๒๐๒๖ ๑๐๐๐๐ ๑๒๓๔๕๖"},
		{"tibetan", "-༡༢ ༠ ༡ ༤ ༡༠ ༡༡ ༢༧ ༡༠༠ ༣༩༩ ༢༠༢༦ ༡༠༠༠༠ ༡༢༣༤༥༦"},
		{"cambodian", "-១២ ០ ១ ៤ ១០ ១១ ២៧ ១០០ ៣៩៩ ២០២៦ ១០០០០ ១២៣៤៥៦"},
		{"cjk-decimal", "-一二 〇 一 四 一〇 一一 二七 一〇〇 三九九 二〇二六 一〇〇〇〇 一二三四五六"},
		{"armenian", "-12 0 Ա Դ Ժ ԺԱ ԻԷ Ճ ՅՂԹ ՍԻԶ 10000 123456"},
		{"lower-armenian", "-12 0 ա դ ժ ժա իէ ճ յղթ սիզ 10000 123456"},
		{"upper-armenian", "-12 0 Ա Դ Ժ ԺԱ ԻԷ Ճ ՅՂԹ ՍԻԶ 10000 123456"},
		{"georgian", "-12 0 ა დ ი ია კზ რ ტჟთ ცკვ ჵ 123456"},
		{"hebrew", "-12 0 א ד י יא כז ק שצט ב׳כו י׳ 123456"},
		{"cjk-earthly-branch", "-一二 〇 子 卯 酉 戌 二七 一〇〇 三九九 二〇二六 一〇〇〇〇 一二三四五六"},
		{"cjk-heavenly-stem", "-一二 〇 甲 丁 癸 一一 二七 一〇〇 三九九 二〇二六 一〇〇〇〇 一二三四五六"},
		{"hiragana", "-12 0 あ え こ さ ひ いえ くそ れこ えたた あおひん"},
		{"hiragana-iroha", "-12 0 い に ぬ る お ろへ ちむ ゑほ にうあ いちみえ"},
		{"katakana", "-12 0 ア エ コ サ ヒ イエ クソ レコ エタタ アオヒン"},
		{"katakana-iroha", "-12 0 イ ニ ヌ ル オ ロヘ チム ヱホ ニウア イチミエ"},
		{"disc", "• • • • • • • • • • • •"},
		{"circle", "◦ ◦ ◦ ◦ ◦ ◦ ◦ ◦ ◦ ◦ ◦ ◦"},
		{"square", "▪ ▪ ▪ ▪ ▪ ▪ ▪ ▪ ▪ ▪ ▪ ▪"},
		{"disclosure-open", "▾ ▾ ▾ ▾ ▾ ▾ ▾ ▾ ▾ ▾ ▾ ▾"},
		{"disclosure-closed", "▸ ▸ ▸ ▸ ▸ ▸ ▸ ▸ ▸ ▸ ▸ ▸"},
		{"japanese-informal", "マイナス十二 〇 一 四 十 十一 二十七 百 三百九十九 二千二十六 一〇〇〇〇 一二三四五六"},
		{"japanese-formal", "マイナス壱拾弐 零 壱 四 壱拾 壱拾壱 弐拾七 壱百 参百九拾九 弐阡弐拾六 一〇〇〇〇 一二三四五六"},
		{"korean-hangul-formal", "마이너스 일십이 영 일 사 일십 일십일 이십칠 일백 삼백구십구 이천이십육 10000 123456"},
		{"korean-hanja-informal", "마이너스 十二 零 一 四 十 十一 二十七 百 三百九十九 二千二十六 10000 123456"},
		{"korean-hanja-formal", "마이너스 壹拾貳 零 壹 四 壹拾 壹拾壹 貳拾七 壹百 參百九拾九 貳仟貳拾六 10000 123456"},
		{"simp-chinese-informal", "负十二 零 一 四 十 十一 二十七 一百 三百九十九 二千零二十六 一〇〇〇〇 一二三四五六"},
		{"simp-chinese-formal", "负壹拾贰 零 壹 肆 壹拾 壹拾壹 贰拾柒 壹佰 叁佰玖拾玖 贰仟零贰拾陆 一〇〇〇〇 一二三四五六"},
		{"trad-chinese-informal", "負十二 零 一 四 十 十一 二十七 一百 三百九十九 二千零二十六 一〇〇〇〇 一二三四五六"},
		{"trad-chinese-formal", "負壹拾貳 零 壹 肆 壹拾 壹拾壹 貳拾柒 壹佰 參佰玖拾玖 貳仟零貳拾陸 一〇〇〇〇 一二三四五六"},
		{"cjk-ideographic", "負十二 零 一 四 十 十一 二十七 一百 三百九十九 二千零二十六 一〇〇〇〇 一二三四五六"},
		{"ethiopic-numeric", "-12 0 ፩ ፬ ፲ ፲፩ ፳፯ ፻ ፫፻፺፱ ፳፻፳፮ ፼ ፲፪፼፴፬፻፶፮"},
	} {
		var list []string
		for _, v := range []int{-12, 0, 1, 4, 10, 11, 27, 100, 399, 2026, 10000, 123456} {
			list = append(list, CounterStyles{}.Text(ListType{Name: c[0]}, v))
		}
		assert.Equal(t, c[1], strings.Join(list, " "), c[0])
	}
}

// Markers of -2, 0, 1, 2, 3, 4, 6 and 17 in styles of a page (§2 and §3). A style that is wrong
// is none, and decimal takes its place.
func TestOwnCounterStyles(t *testing.T) {
	for _, c := range [][2]string{
		{"system: cyclic; symbols: a b c", "a. |c. |a. |b. |c. |a. |c. |b. "},
		{"system: numeric; symbols: o l", "-lo. |o. |l. |lo. |ll. |loo. |llo. |loool. "},
		{"system: alphabetic; symbols: a b", "-2. |0. |a. |b. |aa. |ab. |bb. |aaba. "},
		{"system: symbolic; symbols: * +", "-2. |0. |1. |2. |3. |4. |6. |17. "},
		{"system: fixed; symbols: a b c", "-2. |0. |a. |b. |c. |4. |6. |17. "},
		{"system: fixed 3; symbols: a b", "-2. |0. |1. |2. |a. |b. |6. |17. "},
		{"system: additive; additive-symbols: 10 X, 5 V, 1 I", "-2. |0. |I. |II. |III. |IIII. |VI. |XVII. "},
		{"system: additive; additive-symbols: 5 V, 1 I, 0 zero", "-2. |zero. |I. |II. |III. |IIII. |VI. |VVVII. "},
		{"system: extends upper-roman; suffix: \"!\"", "-2!|0!|I!|II!|III!|IV!|VI!|XVII!"},
		{"system: extends decimal; prefix: \"<\"; suffix: \">\"; negative: \"(\" \")\"", "<(2)>|<0>|<1>|<2>|<3>|<4>|<6>|<17>"},
		{"system: extends decimal; pad: 4 \"0\"", "-002. |0000. |0001. |0002. |0003. |0004. |0006. |0017. "},
		{"system: extends decimal; range: 2 5, 10 infinite", "-2. |0. |1. |2. |3. |4. |6. |17. "},
		{"system: extends decimal; range: infinite 3; fallback: lower-alpha", "-2. |0. |1. |2. |3. |d. |f. |q. "},
		{"system: extends decimal; range: auto", "-2. |0. |1. |2. |3. |4. |6. |17. "},
		{"symbols: x y", "-2. |0. |x. |y. |xx. |yy. |yyy. |xxxxxxxxx. "},
		{"system: numeric; symbols: a", "-2. |0. |1. |2. |3. |4. |6. |17. "},
		{"system: alphabetic; symbols: a", "-2. |0. |1. |2. |3. |4. |6. |17. "},
		{"system: cyclic", "-2. |0. |1. |2. |3. |4. |6. |17. "},
		{"system: additive; additive-symbols: 1 I, 5 V", "-2. |0. |1. |2. |3. |4. |6. |17. "},
		{"system: sideways; symbols: a", "-2. |0. |a. |aa. |aaa. |aaaa. |aaaaaa. |aaaaaaaaaaaaaaaaa. "},
		{"system: extends none; symbols: a", "-2. |0. |1. |2. |3. |4. |6. |17. "},
		{"system: extends decimal; pad: -1 \"0\"", "-2. |0. |1. |2. |3. |4. |6. |17. "},
		{"system: extends decimal; range: 5 2", "-2. |0. |1. |2. |3. |4. |6. |17. "},
		{"system: fixed x; symbols: a b", "-2. |0. |a. |b. |aa. |bb. |bbb. |aaaaaaaaa. "},
		{"system: extends decimal; speak-as: bullets", "-2. |0. |1. |2. |3. |4. |6. |17. "},
		{"system: cyclic; symbols: \"a\" \"b\"; negative: \"minus \"", "b. |b. |a. |b. |a. |b. |b. |a. "},
		{"system: numeric; symbols: \"0\" \"1\"; negative: \"-\" \"-\"; pad: 6 \" \"", "-  10-. |     0. |     1. |    10. |    11. |   100. |   110. | 10001. "},
	} {
		own := CounterStyles{}
		if s := parseCounterStyle("x", css.ParseDeclarations(c[0])); s != nil {
			own["x"] = s
		}
		var list []string
		for _, v := range []int{-2, 0, 1, 2, 3, 4, 6, 17} {
			list = append(list, own.Marker(ListType{Name: "x"}, v))
		}
		assert.Equal(t, c[1], strings.Join(list, "|"), c[0])
	}
}

// Styles that extend each other extend decimal instead (§3.1.7).
func TestCounterStylesThatLeadBack(t *testing.T) {
	own := CounterStyles{}
	for name, text := range map[string]string{"a": `system: extends b; prefix: "a"`, "b": `system: extends c; suffix: "b"`, "c": `system: extends b; pad: 2 "c"`, "d": `system: extends d; prefix: "d"`, "e": `system: extends gone; prefix: "e"`} {
		own[name] = parseCounterStyle(name, css.ParseDeclarations(text))
	}
	for name, want := range map[string]string{"a": "a1b", "b": "1b", "c": "c1. ", "d": "d1. ", "e": "e1. "} {
		assert.Equal(t, want, own.Marker(ListType{Name: name}, 1), name)
	}
}

// TestDescriptors reads each descriptor of @counter-style, and leaves the value before where it is wrong
// (Counter Styles 3, §3).
func TestDescriptors(t *testing.T) {
	type numbers = [2]int
	for _, c := range []struct {
		name, value string
		ok          bool
		want        CounterStyle
	}{
		{"system", "cyclic", true, CounterStyle{System: "cyclic"}},
		{"system", "NUMERIC", true, CounterStyle{System: "numeric"}},
		{"system", "fixed", true, CounterStyle{System: "fixed"}},
		{"system", "fixed 3", true, CounterStyle{System: "fixed", First: 3}},
		{"system", "fixed -3", true, CounterStyle{System: "fixed", First: -3}},
		{"system", "extends Upper-Roman", true, CounterStyle{System: "extends", Extends: "upper-roman"}},
		{"system", "extends My-Own", true, CounterStyle{System: "extends", Extends: "My-Own"}},
		{"system", "fixed 3.5", false, CounterStyle{}},
		{"system", "fixed a", false, CounterStyle{}},
		{"system", "cyclic 2", false, CounterStyle{}},
		{"system", "extends", false, CounterStyle{}},
		{"system", "extends a b", false, CounterStyle{}},
		{"system", "spiral", false, CounterStyle{}},
		{"negative", "'('", true, CounterStyle{Negative: [2]string{"(", ""}}},
		{"negative", "'(' ')'", true, CounterStyle{Negative: [2]string{"(", ")"}}},
		{"negative", "'(' ')' '!'", false, CounterStyle{}},
		{"negative", "3", false, CounterStyle{}},
		{"prefix", "'§ '", true, CounterStyle{Prefix: "§ "}},
		{"prefix", "no", true, CounterStyle{Prefix: "no"}},
		{"prefix", "'a' 'b'", false, CounterStyle{}},
		{"suffix", "')'", true, CounterStyle{Suffix: ")"}},
		{"suffix", "7", false, CounterStyle{}},
		{"range", "auto", true, CounterStyle{AutoRange: true}},
		{"range", "1 5", true, CounterStyle{Ranges: []numbers{{1, 5}}}},
		{"range", "3 3", true, CounterStyle{Ranges: []numbers{{3, 3}}}},
		{"range", "infinite 5, 8 infinite", true, CounterStyle{Ranges: []numbers{{-maxInt, 5}, {8, maxInt}}}},
		{"range", "5 1", false, CounterStyle{}},
		{"range", "1 2 3", false, CounterStyle{}},
		{"range", "1", false, CounterStyle{}},
		{"range", "1.5 3", false, CounterStyle{}},
		{"range", "a 3", false, CounterStyle{}},
		{"pad", "3 '0'", true, CounterStyle{PadTo: 3, Pad: "0"}},
		{"pad", "'0' 3", true, CounterStyle{PadTo: 3, Pad: "0"}},
		{"pad", "0 '0'", true, CounterStyle{Pad: "0"}},
		{"pad", "-1 '0'", false, CounterStyle{}},
		{"pad", "1.5 '0'", false, CounterStyle{}},
		{"pad", "3", false, CounterStyle{}},
		{"pad", "3 4", false, CounterStyle{}},
		{"pad", "'a' 'b'", false, CounterStyle{}},
		{"pad", "3 '0' '1'", false, CounterStyle{}},
		{"fallback", "lower-roman", true, CounterStyle{Fallback: "lower-roman"}},
		{"fallback", "'a'", false, CounterStyle{}},
		{"fallback", "a b", false, CounterStyle{}},
		{"symbols", "'a' b '→'", true, CounterStyle{Symbols: []string{"a", "b", "→"}}},
		{"symbols", "'a' 3", false, CounterStyle{}},
		{"additive-symbols", "10 X, 'I' 1, 0 N", true, CounterStyle{Additive: []weighted{{10, "X"}, {1, "I"}, {0, "N"}}}},
		{"additive-symbols", "1 I, 10 X", false, CounterStyle{}},
		{"additive-symbols", "5 V, 5 W", false, CounterStyle{}},
		{"additive-symbols", "5 V, -1 W", false, CounterStyle{}},
		{"additive-symbols", "5 V 4", false, CounterStyle{}},
		{"additive-symbols", "5 V,", false, CounterStyle{}},
		{"weight", "3", false, CounterStyle{}},
	} {
		var s CounterStyle
		assert.Equal(t, c.ok, s.descriptor(c.name, css.Words(css.ParseValues(c.value))), "%s: %s", c.name, c.value)
		assert.Equal(t, c.want, s, "%s: %s", c.name, c.value)
	}
}
