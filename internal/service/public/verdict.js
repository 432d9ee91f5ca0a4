// Compares a file with the document's checksum. The file stays in the browser.
const compare = document.getElementById('compare')
if (compare && window.crypto?.subtle) {
  const result = document.getElementById('result')
  const wanted = document.getElementById('sum').textContent.trim()
  compare.hidden = false
  compare.querySelector('input').addEventListener('change', async (event) => {
    const [file] = event.target.files
    if (!file) return
    const sum = new Uint8Array(await crypto.subtle.digest('SHA-256', await file.arrayBuffer()))
    const same = Array.from(sum, (byte) => byte.toString(16).padStart(2, '0')).join('') === wanted
    result.className = same ? 'same' : 'other'
    result.textContent = `${file.name}: ${same ? compare.dataset.same : compare.dataset.other}`
  })
}
